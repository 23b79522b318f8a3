import { useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { eventsText } from "../../lib/text";
import { Button, buttonLook, Failure, LinkButton, StageTitle, StateWord, Working } from "../../ui/basics";
import { FileButton } from "../../ui/FileButton";
import { SteelRule } from "../../ui/SteelRule";
import { useRemoveMachine } from "../machine/queries";
import { useMay } from "../session/queries";
import { nextStep } from "./next";
import { useDemoMachine, useImportCase, useOverview } from "./queries";

/** Every machine of the workshop, each with what is nearest its limit and the next thing to do. */
export function Workshop() {
  const machines = useOverview();
  const { works, drives } = useMay();
  const [sought, setSought] = useState("");
  const words = sought.trim().toLowerCase();
  const rows = (machines.data ?? []).filter((row) =>
    `${row.name} ${row.owner} ${row.note} ${row.duty ?? ""}`.toLowerCase().includes(words),
  );
  return (
    <>
      <StageTitle title="The workshop's machines" note="Each with its duty, its set, and what to do next.">
        {works && (
          <LinkButton primary to="/add">
            Add a machine
          </LinkButton>
        )}
        <LinkButton to="/plan">Plan</LinkButton>
        <LinkButton to="/log">Log</LinkButton>
        {works && <OpenCase />}
        {!drives && (
          <Link
            to="/catalogue"
            className="flex min-h-9 items-center px-1 underline underline-offset-2 md:hidden"
          >
            Catalogue
          </Link>
        )}
      </StageTitle>
      <BroughtBack />
      {machines.isPending && <Working>Computing every machine…</Working>}
      {machines.error && <Failure text={problemText(machines.error)} retry={() => machines.refetch()} />}
      {machines.data && machines.data.length > 3 && (
        <label className="mb-2 block max-w-xs">
          <span className="condensed block text-xs text-muted">Find by machine, owner or duty</span>
          <input
            type="search"
            className="h-8 w-full rounded-xs border border-ink bg-paper px-2"
            value={sought}
            onChange={(event) => setSought(event.target.value)}
          />
        </label>
      )}
      {machines.data?.length === 0 &&
        (works ? (
          <NoneYet />
        ) : (
          <p className="max-w-prose">
            {drives
              ? "No machine here is yours yet: ask an owner of the workshop to say, under Settings and People, whose machines you drive."
              : "No machine yet."}
          </p>
        ))}
      {machines.data && machines.data.length > 0 && rows.length === 0 && (
        <p>Nothing here matches “{sought}”.</p>
      )}
      {rows.length > 0 && (
        <ul className="border-t border-ink">
          {rows.map((machine) => (
            <Row key={machine.id} machine={machine} />
          ))}
        </ul>
      )}
    </>
  );
}

/** What leads to the right pads, where there is nothing yet; and a machine to look at first. */
function NoneYet() {
  const demo = useDemoMachine();
  const navigate = useNavigate();
  return (
    <div className="max-w-prose">
      <p className="mb-2">No machine yet. Three things lead to the right pads:</p>
      <ol className="list-decimal space-y-1 pl-5">
        <li>
          <Link className="underline underline-offset-2" to="/add">
            Add the machine
          </Link>{" "}
          from what you know of it: its class fills in the rest, marked as estimates.
        </li>
        <li>Under Duty, say what it is asked to do: a session, a hill, a pass, the road.</li>
        <li>
          Under Choose, see which pads and rotors live through that, and why. The measurements that matter
          most are asked for on the way.
        </li>
      </ol>
      <p className="mt-4 mb-2">
        Or look around first: a kit roadster with its set, its readings and three duties, and a catalogue of
        pads, rotors and fluids. All of it is invented; take the roadster out when you have seen enough.
      </p>
      <Button
        disabled={demo.isPending}
        onClick={() => demo.mutate(undefined, { onSuccess: ({ id }) => navigate(`/m/${id}/choose`) })}
      >
        Try it on the demo machine
      </Button>
      {demo.error && <Failure text={problemText(demo.error)} />}
    </div>
  );
}

/** A machine, its set and its duty from a case file. */
function OpenCase() {
  const open = useImportCase();
  const navigate = useNavigate();
  const [wrong, setWrong] = useState<string | null>(null);
  async function read(file: File) {
    setWrong(null);
    let document: Record<string, unknown>;
    try {
      document = JSON.parse(await file.text());
    } catch {
      setWrong(`${file.name} is no case file: it is not JSON.`);
      return;
    }
    open.mutate(document, { onSuccess: (machine) => navigate(`/m/${machine.id}/machine`) });
  }
  const failed = wrong ?? (open.error && problemText(open.error));
  return (
    <>
      <FileButton
        className={`flex ${buttonLook()}`}
        accept=".json,application/json"
        onFile={(file) => void read(file)}
      >
        Open a case file
      </FileButton>
      {failed && <Failure text={failed} />}
    </>
  );
}

/** The way back for a machine that was just taken out. */
function BroughtBack() {
  const left = (useLocation().state as { left?: { id: number; name: string } } | null)?.left;
  const remove = useRemoveMachine();
  const navigate = useNavigate();
  if (!left) return null;
  return (
    <p role="note" className="mb-3 flex flex-wrap items-center gap-3 border border-hairline px-3 py-2">
      {left.name} is out of the workshop.
      <Button
        onClick={() =>
          remove.mutate(
            { row: left.id, removed: false },
            { onSuccess: () => navigate("/", { replace: true, state: null }) },
          )
        }
      >
        Undo
      </Button>
      {remove.error && <Failure text={problemText(remove.error)} />}
    </p>
  );
}

function Row({ machine }: { machine: Schemas["OverviewRow"] }) {
  const units = useUnits();
  const { verdict } = machine;
  const readings = verdict?.readings ?? [];
  const life = readings.find((reading) => reading.name === "life");
  const next = verdict && nextStep(verdict.outcome, verdict.stages);
  return (
    <li className="grid items-center gap-x-6 gap-y-2 border-b border-hairline py-3 md:grid-cols-[1.2fr_1.2fr_1fr_10rem]">
      <div>
        <Link
          to={`/m/${machine.id}/machine`}
          className="text-base font-semibold underline-offset-2 hover:underline"
        >
          {machine.name}
        </Link>
        <p className="condensed text-muted">
          {machine.owner} · {machine.note} · {units.withUnit(machine.odometer_km, "distance")}
        </p>
      </div>
      <div>
        <p>{machine.duty}</p>
        <p className="condensed text-muted">{verdict?.set_name}</p>
      </div>
      <div>
        {machine.why_not && <span className="condensed text-muted">{machine.why_not}</span>}
        {verdict && <StateWord state={verdict.outcome.state}>{units.say(verdict.outcome.text)}</StateWord>}
        {life && (
          <>
            <p className="condensed text-xs text-muted">
              {life.detail} pads: {eventsText(life.left)}
            </p>
            <SteelRule fill={life.fill} notch={life.notch} state={life.state} />
          </>
        )}
      </div>
      {next && <LinkButton to={`/m/${machine.id}/${next.stage}`}>{next.label}</LinkButton>}
    </li>
  );
}
