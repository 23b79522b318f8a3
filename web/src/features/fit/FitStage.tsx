import { useState } from "react";
import { problemText } from "../../api/client";
import { EndDrawing } from "../../charts/EndDrawing";
import { StackDrawing, type StackPart } from "../../charts/StackDrawing";
import { useHand } from "../../lib/hand";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import {
  Button,
  Caution,
  Failure,
  LinkButton,
  StageTitle,
  type State,
  StateWord,
  Working,
} from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { Boxes } from "./Boxes";
import { Compared } from "./Compared";
import { Measured } from "./Measured";
import { Pushed } from "./Pushed";
import { type AxleFit, type Fit, type Place, useFit, useIntend, useIntendPart } from "./queries";
import { Ways } from "./Ways";

type Axle = "front" | "rear";
const states: Record<AxleFit["verdict"], State> = { fits: "fine", look: "close", "does not fit": "over" };

/** Will it go in: the set that is to go on, on paper, before the machine is up. */
export function FitStage() {
  const id = useMachineId();
  const fit = useFit(id);
  const [picked, pick] = useState<Axle | null>(null);
  if (fit.error) return <Failure text={problemText(fit.error)} retry={() => fit.refetch()} />;
  if (!fit.data) return <Working>Putting the parts together…</Working>;
  const { data } = fit;
  // The axle that has something to settle comes first, until somebody picks the other.
  const axle =
    picked ?? (["does not fit", "look"].includes(data.axles[0]?.verdict ?? "") ? "front" : first(data));
  const shown = data.axles.find((entry) => entry.axle === axle);
  if (!shown) return null;
  return (
    <>
      <StageTitle title="Will it go in" note={<WhatGoesOn fit={data} />}>
        <fieldset className="flex" aria-label="Axle">
          {data.axles.map((entry) => (
            <button
              key={entry.axle}
              type="button"
              aria-pressed={entry.axle === axle}
              className="min-h-9 border border-ink px-3 font-semibold not-first:border-l-0 aria-pressed:bg-ink aria-pressed:text-chalk"
              onClick={() => pick(entry.axle)}
            >
              {entry.axle === "front" ? "Front" : "Rear"}
              <span className="condensed ml-2 font-normal">{entry.is_on ? "stays" : entry.verdict}</span>
            </button>
          ))}
        </fieldset>
      </StageTitle>
      <Pick machineId={id} fit={data} />
      {/* On a phone the ways out come before the tables. */}
      <div className="grid grid-cols-1 gap-x-8 gap-y-6 bay:grid-cols-1! lg:grid-cols-[minmax(0,1fr)_20rem] lg:grid-rows-[auto_1fr]">
        <div className="min-w-0">
          <Stack machineId={id} fit={data} axle={shown} />
          {shown.film && <OldFilm film={shown.film} />}
        </div>
        <aside className="min-w-0 bay:row-span-1! lg:row-span-2">
          {shown.ways.length > 0 && <Ways machineId={id} fit={data} axle={shown} />}
          <Pushed machineId={id} axle={shown} />
        </aside>
        <div className="min-w-0">
          {shown.rows.length > 0 && <Compared machineId={id} fit={data} axle={shown} />}
          <Boxes machineId={id} fit={data} axle={shown} />
        </div>
      </div>
      <Caution>
        On paper only: lay new parts beside old ones before the machine is up. What is computed from estimates
        may be off by more than its spread. The vehicle's manual and the makers of the parts come first; where
        in doubt ask a qualified technician.
      </Caution>
    </>
  );
}

/** Other pads on rings that stay: whose film is on them, and both ways to go about it. */
function OldFilm({ film }: { film: NonNullable<AxleFit["film"]> }) {
  const { say } = useUnits();
  return (
    <section aria-label="Old film" className="mt-4 max-w-prose" data-film>
      <StateWord state={film.same ? "fine" : "close"}>{say(film.text)}</StateWord>
      {film.schools.map((way, place) => (
        <p key={way} className="condensed">
          {place === 0 && "● "}
          {way}
        </p>
      ))}
    </section>
  );
}

/** The axle that changes, the front one where both do. */
function first(fit: Fit): Axle {
  return fit.axles.find((entry) => !entry.is_on)?.axle ?? "front";
}

function WhatGoesOn({ fit }: { fit: Fit }) {
  if (fit.gone) return "The set that was to go on is offered no more: pick another.";
  if (!fit.said) return "Nobody has said what is to go on: pick it here, or under Choose.";
  return fit.axles
    .map((entry) => `${entry.axle}: ${entry.is_on ? "stays" : `${entry.pads} on ${entry.rotors}`}`)
    .join(" · ");
}

type PickProps = {
  machineId: number;
  place: Place;
  label: string;
  now: string;
  options: { key: string; name: string }[];
};

/** The part for one place; what is picked for another meanwhile counts as well. */
function PickPart({ machineId, place, label, now, options }: PickProps) {
  const intend = useIntendPart(machineId);
  const [picked, hold] = useHand<string>();
  return (
    <div>
      <SelectField
        label={label}
        value={picked ?? now}
        options={options.map((option) => [option.key, option.name] as const)}
        onChange={(part) => hold(part, intend.mutateAsync({ place, part }))}
      />
      {intend.error && <Failure text={problemText(intend.error)} />}
    </div>
  );
}

/** Which parts are to go on, each by itself: a set comes from Choose as a whole. */
function Pick({ machineId, fit }: { machineId: number; fit: Fit }) {
  const intend = useIntend(machineId);
  const [front, rear] = fit.choices;
  if (!front || !rear) return null;
  const fields = [
    ["Front pads", "front_pads", front.pad, front.pads],
    ["Rear pads", "rear_pads", rear.pad, rear.pads],
    ["Front rotors", "front_rotors", front.rotor, front.rotors],
    ["Rear rotors", "rear_rotors", rear.rotor, rear.rotors],
  ] as const;
  return (
    <details className="mb-4" open={!fit.said}>
      <summary className="cursor-pointer underline underline-offset-2">What is to go on</summary>
      <div className="mt-2 grid max-w-200 grid-cols-1 gap-3 sm:grid-cols-2 lg:grid-cols-4">
        {fields.map(([label, place, now, options]) => (
          <PickPart key={place} {...{ machineId, place, label, now, options }} />
        ))}
      </div>
      <p className="mt-2 flex flex-wrap items-center gap-3">
        <LinkButton to={`/m/${machineId}/choose`}>Look for a set in Choose</LinkButton>
        {fit.said && <Button onClick={() => intend.mutate({ key: "" })}>Nothing is to go on</Button>}
      </p>
      {intend.error && <Failure text={problemText(intend.error)} />}
    </details>
  );
}

type StackProps = { machineId: number; fit: Fit; axle: AxleFit };

/** The stack across the opening, what was measured of it, and the same at the end of its life. */
function Stack({ machineId, fit, axle }: StackProps) {
  const units = useUnits();
  const { stack, end } = axle;
  const text = (value_m: number) => units.figure(value_m, "thickness");
  const pad = (name: string, turned: boolean): StackPart[] => {
    const parts: StackPart[] = [
      ...(stack.pad.shim_m > 0 ? [{ name: "shim", value_m: stack.pad.shim_m, kind: "shim" as const }] : []),
      { name: "plate", value_m: stack.pad.backing_m, kind: "plate" },
      { name: `${name} pad`, value_m: stack.pad.friction.value_m, kind: "friction" },
    ];
    return turned ? parts.reverse() : parts;
  };
  const ring: StackPart = {
    name: stack.rotor.source === "measured" ? "ring, as measured" : "ring",
    value_m: stack.rotor.value_m,
    kind: "ring",
  };
  const gap: StackPart = { name: "clearance", value_m: stack.clearance_m / 2, kind: "gap" };
  const room = stack.room_m ?? null;
  const roomText =
    room === null
      ? ""
      : room < 0
        ? `${units.withUnit(-room, "thickness")} too thick`
        : `${stack.opening_bound ? "at least " : ""}${units.withUnit(room, "thickness")} to spare`;
  const opening = stack.opening;
  return (
    <section
      aria-label={`Room in the ${axle.axle} caliper`}
      data-fit={axle.axle}
      data-verdict={stack.verdict}
    >
      <p className="mb-1 max-w-180 text-base">
        <StateWord state={states[axle.is_on ? "fits" : roomWord[stack.verdict]]}>
          {units.say(axle.headline)}
        </StateWord>
      </p>
      <InTheWay axle={axle} />
      <StackDrawing
        opening_m={opening?.value_m ?? null}
        bound={stack.opening_bound}
        parts={[...pad("inner", false), gap, ring, gap, ...pad("outer", true)]}
        room_m={room}
        verdict={axle.is_on ? "fits" : stack.verdict}
        opposed={axle.opposed}
        label={`${axle.axle} caliper cut through, to scale: ${roomText || "opening not known"}`}
        openingText={
          opening
            ? `opening ${stack.opening_bound ? "at least " : ""}${text(opening.value_m)} ± ${text(opening.spread_m)} ${units.symbol("thickness")}`
            : ""
        }
        roomText={roomText}
        text={text}
      />
      <p className="condensed text-muted">
        Pistons home; {units.withUnit(stack.clearance_m, "thickness")} of running clearance are counted in.
      </p>
      <Measured machineId={machineId} fit={fit} axle={axle} />
      <h2 className="mt-5 font-semibold">At the end of its life</h2>
      <p className="condensed mb-2 max-w-180">
        {end.travel_m === null ? (
          units.say(end.text)
        ) : (
          <StateWord state={end.verdict === "fits" ? "fine" : end.verdict === "tight" ? "close" : "over"}>
            {units.say(end.text)}
          </StateWord>
        )}
        {end.depth_estimated && <span className="text-muted"> The length in the bore is an estimate.</span>}
      </p>
      {end.travel_m !== null && end.depth_m !== null && opening && (
        <EndDrawing
          opening_m={opening.value_m}
          discard_m={stack.discard_m}
          plate_m={stack.pad.backing_m + stack.pad.shim_m}
          change_m={stack.pad.change_m}
          travel_m={end.travel_m}
          depth_m={end.depth_m}
          hold_m={end.hold_m}
          opposed={axle.opposed}
          held={end.verdict !== "does not fit"}
          label={`${axle.axle} caliper at the end of its life, to scale`}
          text={(value) => units.withUnit(value, "thickness")}
        />
      )}
    </section>
  );
}

/** What keeps it off although it goes in: a measure that does not fit, a part of the wrong side. */
function InTheWay({ axle }: { axle: AxleFit }) {
  const wrong = [
    ...axle.rows.filter((row) => row.verdict === "does not fit").map((row) => row.label.toLowerCase()),
    ...axle.lines
      .filter((line) => ["stop", "swap"].includes(line.verdict))
      .map((line) => line.label.toLowerCase()),
  ];
  if (wrong.length === 0) return null;
  return (
    <p className="mb-1">
      <StateWord state="over">Look below at: {wrong.join(", ")}.</StateWord>
    </p>
  );
}

const roomWord: Record<AxleFit["stack"]["verdict"], AxleFit["verdict"]> = {
  fits: "fits",
  tight: "look",
  "not known": "look",
  "does not fit": "does not fit",
};
