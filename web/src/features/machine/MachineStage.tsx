import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { isClash, type Problem, ProblemError, problemText, type Schemas } from "../../api/client";
import { useProgress } from "../../api/work";
import { otherText, refusalText } from "../../lib/refusals";
import { useMachineId } from "../../lib/route";
import { useSeen } from "../../lib/seen";
import { useUnits } from "../../lib/settings";
import { type System, withUnit } from "../../lib/units";
import { Button, Caution, Failure, GroupTitle, LinkButton, StageTitle, Working } from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { Progress } from "../../ui/Progress";
import { useCalibrations } from "../duty/queries";
import { About } from "./About";
import { usualOf } from "./adding";
import { type Field, fieldOf, type Group, groups, isPart } from "./fields";
import { Live } from "./Live";
import { Masses } from "./Masses";
import { methodOf } from "./methods";
import { type Move, movesText } from "./moves";
import {
  type Numbers,
  useChangeMachine,
  useChangeParts,
  useClassEstimates,
  useClasses,
  useLeaveOpen,
  useMachine,
  useMoves,
  useParts,
} from "./queries";
import { Upgrade } from "./Upgrade";
import { WorkOut } from "./WorkOut";

const materials = [
  ["grey_iron", "grey iron"],
  ["high_carbon_iron", "high-carbon iron"],
  ["stainless", "stainless"],
  ["carbon_ceramic", "carbon-ceramic"],
] as const;
const patterns = [
  ["plain", "plain"],
  ["slotted", "slotted"],
  ["drilled", "drilled"],
  ["drilled_slotted", "drilled and slotted"],
] as const;

/** The machine as it is: every number, whether it is known, and what the pedal gives with it. */
export function MachineStage() {
  const id = useMachineId();
  const machine = useMachine(id);
  const parts = useParts(id);
  const [drafts, setDrafts] = useState<Numbers>({});
  const [pedal, setPedal] = useState<number | null>(null);
  const wanted = useSearchParams()[0].get("field");
  const there = machine.data !== undefined && parts.data !== undefined;
  // A link to one number, from Why: its box is opened, brought into sight and given the focus.
  useEffect(() => {
    if (!wanted || !there) return;
    const box = document.querySelector<HTMLElement>(`[data-path="${CSS.escape(wanted)}"]`);
    box?.closest("details")?.setAttribute("open", "");
    box?.scrollIntoView({ block: "center" });
    box?.focus();
  }, [wanted, there]);
  if (machine.error) return <Failure text={problemText(machine.error)} retry={() => machine.refetch()} />;
  if (!machine.data) return <Working>Fetching the machine…</Working>;
  const data = machine.data;
  const numbers: Numbers = { ...data.values };
  for (const [path, value] of Object.entries(parts.data?.values ?? {}))
    if (typeof value === "number") numbers[path] = value;
  const force = pedal ?? Math.round((data.values["hydraulics.max_pedal_force_N"] ?? 500) * 0.4);
  return (
    <>
      <StageTitle
        title={data.name}
        note={`What the brakes give, and which wheel locks first. ${data.owner} · ${data.note ? `${data.note} · ` : ""}${data.estimates.length} of its numbers are estimates until you type what you measured.`}
      >
        <LinkButton to={`/m/${id}/duty`}>Say what it is asked to do</LinkButton>
      </StageTitle>
      <div className="grid grid-cols-1 gap-x-8 gap-y-6 bay:grid-cols-1! xl:grid-cols-[1fr_26rem]">
        <div className="order-2 min-w-0 space-y-6 xl:order-1">
          <Numbered machine={data} numbers={numbers} parts={parts.data} onDraft={setDrafts} />
          <About machine={data} />
        </div>
        <Live machine={data} drafts={drafts} pedal={force} onPedal={setPedal} />
      </div>
      <Upgrade machine={data} values={numbers} pedal={force} />
      <Caution>
        Numbers here support a decision; they certify nothing. Where the vehicle's manual says otherwise, it
        is right. Balance, valve and wheel clearance decide whether an upgrade is safe: have it checked by a
        qualified technician, and its approval by local law.
      </Caution>
    </>
  );
}

type NumberedProps = {
  machine: Schemas["MachineOut"];
  numbers: Numbers;
  parts: Schemas["PartsOut"] | undefined;
  onDraft: (update: (before: Numbers) => Numbers) => void;
};

/** Every number in its group, with what it rests on. */
function Numbered({ machine, numbers, parts, onDraft }: NumberedProps) {
  const { system, word } = useUnits();
  const change = useChangeMachine(machine.id);
  const changeParts = useChangeParts(machine.id);
  const leaveOpen = useLeaveOpen(machine.id);
  const used = useCalibrations(machine.id).data?.find((row) => !row.removed);
  const [measuring, setMeasuring] = useState<string | null>(null);
  const [loading, setLoading] = useState(false);
  const [asked, setAsked] = useState(false);
  const moves = useMoves(machine.id, asked);
  const queries = useQueryClient();
  const progress = useProgress("moves");
  const numberSeen = useSeen((path) => machine.values[path] ?? null);
  const partSeen = useSeen<number | string>((path) => parts?.values[path] ?? 0);
  const saving = [change, changeParts, leaveOpen];
  const error = saving.find((mutation) => mutation.error)?.error ?? null;
  const refused = error instanceof ProblemError ? error.problem : null;
  // What was sent last: what it did to another field is said at it.
  const [sent, setSent] = useState(new Set<string>());
  const told = refused && refused.fields.length > 0 && [...sent].some((path) => fieldOf(path));
  const elsewhere = refused && !told ? problemText(error) : null;
  const plain = useClassEstimates(machine.vehicle_class || null, nothing).data ?? {};
  const ofClass = useClasses().data?.find((entry) => entry.name === machine.vehicle_class)?.label ?? "";

  function commit(path: string, value: number | null) {
    for (const mutation of saving) mutation.reset();
    setSent(new Set([path]));
    const done = () => onDraft(({ [path]: _, ...rest }) => rest);
    if (!isPart(path)) {
      const [seen, then] = numberSeen(path, value, done);
      change.mutate({ changes: { [path]: value }, seen }, then);
    } else if (value !== null) {
      const [seen, then] = partSeen(path, value, done);
      changeParts.mutate({ changes: { [path]: value }, seen }, then);
    }
  }

  function hintOf(field: Field): string {
    const side = field.path.startsWith("front.") ? "front" : field.path.startsWith("rear.") ? "rear" : null;
    const fit = side && field.path === `${side}.cooling_factor` ? used?.[side] : null;
    if (fit) return `counts × ${fit.cooling.toFixed(2)}, by the temperatures measured`;
    const move = asked ? moves.data?.find((row) => row.field === field.path) : undefined;
    return move ? movesText(move, system) : word(field.how);
  }

  const box = (field: Field) => {
    const estimate = machine.estimates.includes(field.path);
    return (
      <NumberField
        key={field.path}
        path={field.path}
        label={word(field.label)}
        quantity={field.quantity}
        system={system}
        hint={hintOf(field)}
        nullable={field.nullable ?? false}
        value={numbers[field.path] ?? null}
        estimate={estimate}
        refused={refused ? notSaved(refused, field, sent, system) : undefined}
        tyre={field.tyre}
        usual={usualOf(field, plain[field.path], ofClass)}
        onPreview={
          isPart(field.path)
            ? undefined
            : (value) => onDraft((before) => ({ ...before, [field.path]: value }))
        }
        onCommit={(value) => commit(field.path, value)}
        onMeasure={methodOf(field.path) ? () => setMeasuring(field.path) : undefined}
        onLeaveOpen={
          !estimate && canLeaveOpen(machine, field.path) ? () => leaveOpen.mutate([field.path]) : undefined
        }
      />
    );
  };

  return (
    <>
      {elsewhere && <Failure text={elsewhere} />}
      <div className="flex flex-wrap items-center gap-3">
        {machine.estimates.length > 0 && !asked && (
          <Button onClick={() => setAsked(true)}>Which estimates move the answer?</Button>
        )}
        {asked && (
          <span className="condensed text-muted" role={moves.isPending ? "status" : undefined}>
            {moves.isPending
              ? "Trying both ends of every estimate…"
              : moves.error
                ? problemText(moves.error)
                : top(moves.data)}
          </span>
        )}
        {progress && (
          <Progress
            {...progress}
            onStop={() => {
              setAsked(false);
              void queries.cancelQueries({ queryKey: ["machine", machine.id, "moves"] });
            }}
          />
        )}
      </div>
      {groups.map((group) => (
        <NumberGroup
          key={group.title}
          group={group}
          present={group.fields.filter((field) => field.path in numbers && shownHere(machine, field))}
          box={box}
          title={titleOf(group, machine, parts)}
        >
          {group.title === "Weight and size" && (
            <p className="mt-2">
              <button type="button" className="underline underline-offset-2" onClick={() => setLoading(true)}>
                {machine.masses.length ? "Change the parts of the mass" : "Put the mass together from parts"}
              </button>
              {machine.masses.length > 0 && (
                <span className="condensed text-muted">
                  {" "}
                  · {machine.masses.map((mass) => `${mass.name} ${Math.round(mass.mass_kg)} kg`).join(" + ")}
                </span>
              )}
            </p>
          )}
          {parts && (group.title === "Front axle" || group.title === "Rear axle") && (
            <RotorWords
              side={group.title === "Front axle" ? "front" : "rear"}
              parts={parts}
              onChange={(path, word) => {
                const [seen, then] = partSeen(path, word);
                changeParts.mutate({ changes: { [path]: word }, seen }, then);
              }}
            />
          )}
        </NumberGroup>
      ))}
      <Masses machine={machine} open={loading} onClose={() => setLoading(false)} />
      <WorkOut
        path={measuring}
        values={numbers}
        onUse={(changes) => {
          for (const [path, value] of Object.entries(changes)) if (isPart(path)) commit(path, value);
          const own = Object.entries(changes).filter(([path]) => !isPart(path));
          // Worked out from what was just measured: it holds whatever stood there before.
          setSent(new Set(own.map(([path]) => path)));
          if (own.length) change.mutate({ changes: Object.fromEntries(own), seen: {} });
        }}
        onClose={() => setMeasuring(null)}
      />
    </>
  );
}

const nothing = {};

/** Why a field was not saved, in the reader's units. */
function notSaved(problem: Problem, field: Field, sent: Set<string>, system: System): string | undefined {
  const entry = problem.fields.find(({ field: path }) => path === field.path);
  if (!isClash(problem)) {
    // A rule between two fields is said at the one that was typed, wherever the other is folded away.
    if (sent.has(field.path) && !entry && problem.fields.every(({ field: path }) => !sent.has(path)))
      return problem.fields
        .map((other) => `Not saved: ${otherText(other, system, fieldOf(other.field))}`)
        .join("; ");
    if (!entry || !sent.has(field.path)) return undefined;
    return `Not saved: ${refusalText(entry, system, { label: field.label, quantity: field.quantity })}`;
  }
  if (!entry) return undefined;
  const words = (text: string) =>
    text === "None" ? "none" : withUnit(Number(text), field.quantity, system, undefined);
  return `Not saved: somebody else has set it to ${words(entry.allowed)} meanwhile, yours was ${words(entry.value)}.`;
}

/** Numbers a class can stand in for. */
function canLeaveOpen(machine: Schemas["MachineOut"], path: string): boolean {
  return (
    machine.vehicle_class !== "" &&
    /^(vehicle|hydraulics|powertrain|front|rear)\./.test(path) &&
    !isPart(path)
  );
}

/** A rider's share makes sense on two circuits only, and a trailer behind a hook. */
function shownHere(machine: Schemas["MachineOut"], field: Field): boolean {
  if (field.path === "vehicle.rider_front_share") return machine.kind === "motorcycle";
  return field.path.startsWith("trailer.") ? machine.towing : true;
}

function titleOf(
  group: Group,
  machine: Schemas["MachineOut"],
  parts: Schemas["PartsOut"] | undefined,
): string {
  if (group.title === "Front axle")
    return `${machine.front_caliper}${parts ? ` · ${parts.front_rotor} · ${parts.front_pad}` : ""}`;
  if (group.title === "Rear axle")
    return `${machine.rear_caliper}${parts ? ` · ${parts.rear_rotor} · ${parts.rear_pad}` : ""}`;
  return "";
}

function top(moves: Move[] | undefined): string {
  const names = (moves ?? [])
    .slice(0, 3)
    .map((move) => fieldOf(move.field)?.label.toLowerCase() ?? move.field);
  return names.length
    ? `Measure first: ${names.join(", ")}. Each box says how far its estimate moves the answer.`
    : "No estimate moves the answer.";
}

type GroupProps = {
  group: Group;
  title: string;
  present: Field[];
  box: (field: Field) => React.ReactNode;
  children: React.ReactNode;
};

function NumberGroup({ group, title, present, box, children }: GroupProps) {
  const { word } = useUnits();
  if (present.length === 0) return null;
  const seldom = present.filter((field) => field.more);
  const columns = "grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-3 2xl:grid-cols-4";
  return (
    <fieldset className="border-t border-ink pt-2">
      <legend className="sr-only">{group.title}</legend>
      <GroupTitle>
        {word(group.title)}
        {title && <span className="condensed font-normal text-muted"> · {title}</span>}
      </GroupTitle>
      <div className={columns}>{present.filter((field) => !field.more).map(box)}</div>
      {children}
      {seldom.length > 0 && (
        <details className="mt-2">
          <summary className="condensed cursor-pointer underline underline-offset-2">
            {seldom.length} more, seldom measured: {group.title.toLowerCase()}
          </summary>
          <div className={`mt-2 ${columns}`}>{seldom.map(box)}</div>
        </details>
      )}
    </fieldset>
  );
}

type RotorWordsProps = {
  side: "front" | "rear";
  parts: Schemas["PartsOut"];
  onChange: (path: string, word: string) => void;
};

function RotorWords({ side, parts, onChange }: RotorWordsProps) {
  const word = (name: string) => String(parts.values[`${side}.rotor.${name}`] ?? "");
  return (
    <div className="mt-3 grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-3 2xl:grid-cols-4">
      <SelectField
        label={`Rotor material, ${side}`}
        value={word("material")}
        options={materials}
        onChange={(value) => onChange(`${side}.rotor.material`, value)}
      />
      <SelectField
        label={`Rotor face, ${side}`}
        value={word("pattern")}
        options={patterns}
        onChange={(value) => onChange(`${side}.rotor.pattern`, value)}
      />
    </div>
  );
}
