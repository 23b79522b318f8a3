import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { Button, GroupTitle } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { PasswordField } from "../../ui/PasswordField";
import { useBeginSecond, useEndSecond, useFinishSecond, useNewCodes } from "./queries";
import { Shown } from "./Shown";
import { WithPassword } from "./WithPassword";

const FEW = 3;

/** A code of a device beside the password: set up, codes to write down, ended. */
export function SecondFactor({ me }: { me: Schemas["MeOut"] }) {
  const [asked, setAsked] = useState<"begin" | "codes" | "end" | null>(null);
  const begin = useBeginSecond();
  const finish = useFinishSecond();
  const again = useNewCodes();
  const end = useEndSecond();
  const close = () => setAsked(null);
  const codes = finish.data?.codes ?? again.data?.codes;
  const had = () => {
    finish.reset();
    again.reset();
    begin.reset();
  };
  return (
    <section aria-label="Second factor">
      <GroupTitle>Second factor</GroupTitle>
      <p className="mb-3 max-w-prose text-muted">
        {me.second_factor
          ? `On: signing in asks for the code your device shows. ${me.codes_left} of the codes you wrote down are left.`
          : "Off. With it, signing in asks for a code that changes every half minute on a device of yours, beside the password."}
      </p>
      {me.second_factor && me.codes_left < FEW && !codes && (
        <p role="note" className="mb-3 text-close">
          ◐ Few codes are left: make new ones before the device is lost.
        </p>
      )}
      {codes && (
        <Shown
          label="Codes to write down"
          text={codes.join("\n")}
          note="Each is good once, in place of the device's code. Keep them where the device is not; they are not shown again."
          onDone={had}
        />
      )}
      {begin.data && !codes && <SetUp begun={begin.data} finish={finish} onLeave={begin.reset} />}
      {!begin.data && asked === null && (
        <div className="flex flex-wrap gap-2">
          {!me.second_factor && <Button onClick={() => setAsked("begin")}>Set it up</Button>}
          {me.second_factor && (
            <>
              <Button onClick={() => setAsked("begin")}>Another device</Button>
              <Button onClick={() => setAsked("codes")}>New codes to write down</Button>
              <Button onClick={() => setAsked("end")}>Turn it off</Button>
            </>
          )}
        </div>
      )}
      {asked === "begin" && (
        <WithPassword
          label="Set it up"
          pending={begin.isPending}
          error={begin.error}
          onSend={(password) => begin.mutate({ password }, { onSuccess: close })}
          onLeave={close}
        />
      )}
      {asked === "codes" && (
        <WithPassword
          label="Make new codes"
          pending={again.isPending}
          error={again.error}
          onSend={(password) => again.mutate({ password }, { onSuccess: close })}
          onLeave={close}
        >
          <p>Those of before are good no more.</p>
        </WithPassword>
      )}
      {asked === "end" && (
        <WithPassword
          label="Turn it off"
          pending={end.isPending}
          error={end.error}
          onSend={(password) => end.mutate({ password }, { onSuccess: close })}
          onLeave={close}
        />
      )}
    </section>
  );
}

type SetUpProps = {
  begun: Schemas["BegunOut"];
  finish: ReturnType<typeof useFinishSecond>;
  onLeave: () => void;
};

function SetUp({ begun, finish, onLeave }: SetUpProps) {
  const [code, setCode] = useState("");
  return (
    <Form
      label="Second factor, the device"
      enterSends
      className="max-w-md space-y-3 border border-hairline p-3"
      refused={useRefused(finish.error)}
      onSend={() => finish.mutate({ code })}
    >
      <p>Point the device that is to show codes at this, or type the letters into it:</p>
      <img
        src={begun.picture}
        alt="The letters below, to be read by a camera"
        className="bg-white"
        width={196}
      />
      <p className="figures break-all select-all">{begun.secret.match(/.{1,4}/g)?.join(" ")}</p>
      <PasswordField
        label="The six digits it shows now"
        path="code"
        complete="one-time-code"
        value={code}
        onChange={setCode}
      />
      <div className="flex gap-2">
        <Button type="submit" primary disabled={finish.isPending}>
          Turn it on
        </Button>
        <Button onClick={onLeave}>Leave it</Button>
      </div>
    </Form>
  );
}
