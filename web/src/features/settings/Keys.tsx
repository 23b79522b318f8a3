import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { Button, Failure, GroupTitle, Working } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { SelectField, TextField } from "../../ui/fields";
import { KeyTable, reaches } from "./KeyTable";
import { useMakeKey, useMe, useWithdrawKey } from "./queries";
import { Shown } from "./Shown";

/** Keys by which a gauge, a logger or a program works in one's name. */
export function Keys() {
  const me = useMe();
  const make = useMakeKey();
  const withdraw = useWithdrawKey();
  const [name, setName] = useState("");
  const [reach, setReach] = useState<Schemas["KeyAsk"]["reach"]>("readings");
  const refused = useRefused(make.error);
  if (me.error) return <Failure text={problemText(me.error)} retry={() => me.refetch()} />;
  if (!me.data) return <Working>Reading…</Working>;
  return (
    <div className="space-y-6">
      <section aria-label="Your keys">
        <GroupTitle>Your keys in {me.data.workshop}</GroupTitle>
        <p className="mb-3 max-w-prose text-muted">
          A key lets a gauge, a logger or the command line work in your name, never further than you may
          yourself. It is sent in the head of a request, “Authorization: Bearer …”, and never in an address.
        </p>
        {me.data.keys.length === 0 ? (
          <p>None so far.</p>
        ) : (
          <KeyTable keys={me.data.keys} pending={withdraw.isPending} onWithdraw={withdraw.mutate} />
        )}
        {withdraw.error && <Failure text={problemText(withdraw.error)} />}
      </section>
      {make.data && (
        <Shown
          label={`Key “${make.data.key.name}”`}
          text={make.data.secret}
          note="Shown this once. What is kept here is a print, from which nobody can make it again."
          onDone={make.reset}
        />
      )}
      <Form
        label="Make a key"
        className="flex max-w-2xl flex-wrap items-end gap-3"
        refused={refused}
        onSend={() => make.mutate({ name, reach }, { onSuccess: () => setName("") })}
      >
        <TextField label="What it is for" path="name" value={name} required onChange={setName} />
        <SelectField
          label="May"
          value={reach}
          options={reaches}
          onChange={(value) => setReach(reaches.find(([entry]) => entry === value)?.[0] ?? "read")}
        />
        <Button type="submit" primary disabled={make.isPending}>
          Make a key
        </Button>
      </Form>
    </div>
  );
}
