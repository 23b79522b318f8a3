import { Link } from "react-router";
import { problemText, type Schemas } from "../../api/client";
import { useMachines, useVerdict } from "../../api/queries";
import { useUnits } from "../../lib/settings";
import { eventsText } from "../../lib/text";
import { Failure, StageTitle, StateWord, Working } from "../../ui/basics";
import { SteelRule } from "../../ui/SteelRule";
import { nextStep, worstOf } from "./next";

/** Every machine of the workshop, each with what is nearest its limit and the next thing to do. */
export function Workshop() {
  const machines = useMachines();
  return (
    <>
      <StageTitle title="The workshop's machines" note="Each with its duty, its set, and what to do next." />
      {machines.isPending && <Working>Opening the list…</Working>}
      {machines.error && <Failure text={problemText(machines.error)} retry={() => machines.refetch()} />}
      {machines.data && (
        <ul className="border-t border-ink">
          {machines.data.map((machine) => (
            <Row key={machine.id} machine={machine} />
          ))}
        </ul>
      )}
    </>
  );
}

const names: Record<string, string> = {
  rotor: "hottest rotor",
  window: "braking in the pad's window",
  pedal: "pedal force left",
  fluid: "fluid to boil",
  life: "pads to change",
};
function Row({ machine }: { machine: Schemas["MachineRow"] }) {
  const units = useUnits();
  const verdict = useVerdict(machine.id);
  const readings = verdict.data?.readings ?? [];
  const worst = worstOf(readings);
  const life = readings.find((reading) => reading.name === "life");
  const next = verdict.data && nextStep(readings, verdict.data.stages);
  return (
    <li
      aria-busy={verdict.isPending}
      className="grid items-center gap-x-6 gap-y-2 border-b border-hairline py-3 md:grid-cols-[1.2fr_1.2fr_1fr_10rem]"
    >
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
        <p className="condensed text-muted">{verdict.data?.set_name}</p>
      </div>
      <div>
        {verdict.isPending && <span className="condensed text-muted">computing…</span>}
        {verdict.error && <span className="condensed text-muted">{problemText(verdict.error)}</span>}
        {worst && worst.state !== "fine" && (
          <StateWord state={worst.state}>{`${worst.state}: ${names[worst.name]}`}</StateWord>
        )}
        {worst?.state === "fine" && <StateWord state="fine">fine on this duty</StateWord>}
        {life && (
          <>
            <p className="condensed text-xs text-muted">
              {life.detail} pads, {eventsText(life.value)} events left
            </p>
            <SteelRule fill={life.fill} notch={life.notch} state={life.state} />
          </>
        )}
      </div>
      {next && (
        <Link
          to={`/m/${machine.id}/${next.stage}`}
          className="rounded-xs border border-ink px-3 py-1.5 text-center font-semibold hover:bg-paper"
        >
          {next.label}
        </Link>
      )}
    </li>
  );
}
