import { useEffect, useRef } from "react";
import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { clockText } from "../../lib/text";
import { Button, Failure, StateWord } from "../../ui/basics";
import type { RunOutbox } from "./outbox";
import { type Card, leftOf, secondsOf } from "./overlay";
import { type Item, type Run, useEndRun } from "./queries";
import { useNow } from "./running";
import { phaseText } from "./Schools";
import { signal } from "./signals";

type Props = {
  run: Run;
  card: Card;
  skew_ms: number;
  machineId: number;
  outbox: RunOutbox;
  onReading: () => void;
};

/** One braking, as large as it goes: from, to, how hard; then the gap counting down with the speed to hold. */
export function Braking({ run, card, skew_ms, machineId, outbox, onReading }: Props) {
  const now = useNow();
  const at_s = secondsOf(run, now, skew_ms);
  const left = leftOf(card.gap, at_s);
  const rang = useRef(left === 0);
  useEffect(() => {
    if (left > 0) rang.current = false;
    else if (!rang.current) {
      rang.current = true;
      signal();
    }
  }, [left]);
  const say = (kind: "done" | "harder" | "skip" | "traffic" | "undo") =>
    outbox.say({ kind, at_s: secondsOf(run, Date.now(), skew_ms) });
  const item = card.item;
  if (!item)
    return <AllDone run={run} card={card} machineId={machineId} left={left} onUndo={() => say("undo")} />;
  const driving = left > 0;
  return (
    <div data-braking={card.number} data-driving={driving}>
      <p className="flex items-baseline justify-between gap-2">
        <span className="text-xl font-bold">
          {item.stops > 1 ? phaseText[item.phase] : "Braking"} {card.number} of {card.total}
        </span>
        <OnPlan run={run} card={card} />
      </p>
      {driving && card.gap ? (
        <Driving seconds={left} speed_mps={card.gap.speed_mps} />
      ) : (
        <p className="text-lg font-semibold">Brake now</p>
      )}
      <Row item={item} small={driving} />
      <Button primary className="mt-3 min-h-20 w-full text-2xl" onClick={() => say("done")}>
        Done, next
      </Button>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <Button className="min-h-13 text-base" disabled={!card.canUndo} onClick={() => say("undo")}>
          Undo
        </Button>
        <Button className="min-h-13 text-base" disabled={card.did.length === 0} onClick={onReading}>
          Enter a reading
        </Button>
        <Button className="min-h-13 text-base" onClick={() => say("harder")}>
          Done, was harder
        </Button>
        <Button className="min-h-13 text-base" onClick={() => say("traffic")}>
          Traffic, wait
        </Button>
        <Button className="min-h-11" onClick={() => say("skip")}>
          Skip this one
        </Button>
        {card.next && (
          <p className="condensed self-center text-muted" data-next>
            then <Short item={card.next} />
          </p>
        )}
      </div>
    </div>
  );
}

function Driving({ seconds, speed_mps }: { seconds: number; speed_mps: number }) {
  const units = useUnits();
  return (
    <div className="border-b border-hairline pb-2">
      <p className="condensed text-muted">drive on at about</p>
      <p className="flex items-baseline justify-between gap-3">
        <span className="figures text-4xl font-bold">
          {units.figure(speed_mps, "speed")}{" "}
          <span className="condensed text-base font-normal text-muted">{units.symbol("speed")}</span>
        </span>
        <span className="figures text-6xl font-bold" role="timer" aria-live="off" data-countdown={seconds}>
          {seconds >= 100 ? clockText(seconds) : seconds}
          <span className="condensed text-base font-normal text-muted"> {seconds >= 100 ? "min" : "s"}</span>
        </span>
      </p>
      <p className="condensed">Do not stop, do not hold the brake.</p>
    </div>
  );
}

function Row({ item, small }: { item: Item; small: boolean }) {
  const units = useUnits();
  if (item.stops > 1)
    return (
      <p className="mt-2 text-2xl font-bold leading-tight">
        {units.withUnit(item.way_m / 1000, "distance")}, braking {item.stops} times on the way
        <span className="block text-lg font-semibold">
          from at most {units.withUnit(item.from_mps, "speed")} to {units.withUnit(item.to_mps, "speed")}:{" "}
          {item.how}, {item.decel_g.toFixed(2)} g
        </span>
      </p>
    );
  return (
    <div className={small ? "mt-2" : "mt-1"}>
      <p className="condensed text-muted">from</p>
      <p className={`figures font-bold leading-none ${small ? "text-4xl" : "text-7xl"}`} data-from>
        {units.figure(item.from_mps, "speed")}
        <span className="condensed text-lg font-normal text-muted"> {units.symbol("speed")}</span>
      </p>
      <div className="mt-2 flex gap-6">
        <div>
          <p className="condensed text-muted">down to</p>
          <p className={`figures font-bold leading-none ${small ? "text-3xl" : "text-5xl"}`}>
            {units.figure(item.to_mps, "speed")}
          </p>
        </div>
        <div className="min-w-0">
          <p className="condensed text-muted">how hard</p>
          <p className={`font-bold leading-tight ${small ? "text-lg" : "text-2xl"}`}>
            {item.how}, {item.decel_g.toFixed(2)} g
          </p>
        </div>
      </div>
    </div>
  );
}

function Short({ item }: { item: Item }) {
  const units = useUnits();
  return (
    <>
      {units.figure(item.from_mps, "speed")} to {units.withUnit(item.to_mps, "speed")},{" "}
      {item.how.split(",")[0]}
    </>
  );
}

/** How near the run is to what was planned: at its end, in front. */
function OnPlan({ run, card }: { run: Run; card: Card }) {
  const planned = run.planned[run.planned.length - 1]?.front_C ?? null;
  const end = card.left[card.left.length - 1]?.front_C ?? null;
  if (planned === null || end === null) return null;
  if (Math.abs(end - planned) <= 25) return <StateWord state="fine">on plan</StateWord>;
  return <StateWord state="close">{end > planned ? "ends hotter" : "ends cooler"}</StateWord>;
}

type EndProps = { run: Run; card: Card; machineId: number; left: number; onUndo: () => void };

/** Nothing is left to brake: cool, park, and say that the run is over. */
function AllDone({ run, card, machineId, left, onUndo }: EndProps) {
  const end = useEndRun(run.id, machineId);
  const units = useUnits();
  return (
    <div data-all-done>
      <p className="text-xl font-bold">All brakings done: now cool</p>
      {left > 0 && card.gap && <Driving seconds={left} speed_mps={card.gap.speed_mps} />}
      <p className="mt-2">
        Drive on without braking until both rings are under {units.withUnit(100, "temperature")}, then park
        without the parking brake, out of gear where it is level, and leave it off for a quarter of an hour.
      </p>
      <Button
        primary
        className="mt-4 min-h-16 w-full text-xl"
        disabled={end.isPending}
        onClick={() => end.mutate()}
      >
        The run is over
      </Button>
      <Button className="mt-2 min-h-13 w-full text-base" disabled={!card.canUndo} onClick={onUndo}>
        Undo
      </Button>
      {end.error && <Failure text={problemText(end.error)} retry={() => end.mutate()} />}
    </div>
  );
}
