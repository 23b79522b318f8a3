import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { problemText } from "../../api/client";
import { RunLadder } from "../../charts/RunLadder";
import { connectedStore } from "../../lib/connection";
import { keeps, keepThisPage } from "../../lib/device";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { Button, Failure, StateWord, Working } from "../../ui/basics";
import { Braking } from "./Braking";
import { later, overlaid } from "./overlay";
import { type Run, useRun } from "./queries";
import { ReadingForm } from "./ReadingForm";
import { RunOver } from "./RunOver";
import { keptOf, see, useRunOutbox } from "./running";
import { allowSound, shakeStore, soundStore, useScreenOn } from "./signals";

/** A bedding run: one braking fills a phone in the passenger's hand; a desk shows the same run beside its plan. */
export function RunPage() {
  const machineId = useMachineId();
  const id = Number(useParams().runId);
  const asked = useRun(id);
  const store = keptOf(id);
  const kept = useStore(store);
  const fresh = asked.data;
  useEffect(() => {
    if (fresh) see(fresh);
  }, [fresh]);
  const stored = useKeeping(id, machineId, fresh !== undefined);
  const run = later(kept.run, fresh);
  if (!run) {
    if (asked.error) return <Failure text={problemText(asked.error)} retry={() => asked.refetch()} />;
    return <Working>Fetching the run…</Working>;
  }
  return (
    <Card
      key={run.id}
      run={run}
      machineId={machineId}
      skew_ms={kept.skew_ms}
      begun={kept.begun || run.kinds.length > 0}
      stored={stored}
      onBegin={() => store.set({ ...store.get(), run, begun: true })}
    />
  );
}

/** Keep this page on the device once it is drawn; says whether it is kept. */
function useKeeping(id: number, machineId: number, ready: boolean): boolean {
  const [stored, setStored] = useState(false);
  useEffect(() => {
    if (!ready || !keeps()) return;
    let left = false;
    const answers = [
      "/api/session",
      "/api/machines",
      `/api/machines/${machineId}`,
      `/api/bedding-runs/${id}`,
    ];
    keepThisPage(answers).then(
      () => !left && setStored(true),
      () => undefined,
    );
    return () => {
      left = true;
    };
  }, [id, machineId, ready]);
  return stored;
}

type CardProps = {
  run: Run;
  machineId: number;
  skew_ms: number;
  begun: boolean;
  stored: boolean;
  onBegin: () => void;
};

function Card({ run, machineId, skew_ms, begun, stored, onBegin }: CardProps) {
  const units = useUnits();
  const navigate = useNavigate();
  const outbox = useRunOutbox(machineId, run.id);
  const waiting = useStore(outbox.items);
  const refused = useStore(outbox.refused);
  const connected = useStore(connectedStore);
  const card = overlaid(run, waiting);
  const over = run.ended_at !== null;
  const [reading, setReading] = useState(false);
  useScreenOn(begun && !over);
  return (
    <div className="grid gap-x-10 gap-y-4 lg:grid-cols-[minmax(0,24rem)_minmax(0,1fr)]">
      <div className="min-w-0">
        <header className="mb-3 flex items-baseline justify-between gap-3 border-b border-ink pb-1.5">
          <h1 className="font-semibold">
            Bed · {run.machine} <span className="condensed font-normal text-muted">{run.label}</span>
          </h1>
          <Kept waiting={waiting.length} connected={connected} stored={stored} />
        </header>
        {refused && <Failure text={refused} />}
        {over ? (
          <RunOver run={run} machineId={machineId} />
        ) : !begun ? (
          <Before
            run={run}
            stored={stored}
            onBegin={() => {
              allowSound();
              onBegin();
            }}
          />
        ) : reading ? (
          <ReadingForm
            run={run}
            card={card}
            skew_ms={skew_ms}
            outbox={outbox}
            onClose={() => setReading(false)}
          />
        ) : (
          <Braking
            run={run}
            card={card}
            skew_ms={skew_ms}
            machineId={machineId}
            outbox={outbox}
            onReading={() => setReading(true)}
          />
        )}
      </div>
      <section aria-label="The run so far" className="min-w-0">
        <RunLadder
          planned={run.planned.map((item) => item.front_C ?? 0)}
          done={card.did.flatMap((did) => (did.item.front_C === null ? [] : [did.item.front_C]))}
          left={card.left.map((item) => item.front_C ?? 0)}
          readings={run.reads.map((read) => ({
            after: Math.min(card.total, read.after),
            value_C: read.value_C,
            believed: read.believed,
          }))}
          low={run.front.low_C}
          high={run.front.high_C}
          system={units.system}
        />
        {waiting.some((event) => event.kind === "reading") && !connected && (
          <p data-not-planned>
            <StateWord state="close">
              The reading waits: the rest is not planned anew yet, go by what stands.
            </StateWord>
          </p>
        )}
        {run.said && (
          <p className="mt-1" data-said>
            <StateWord state="close">{units.say(run.said)}</StateWord>
          </p>
        )}
        {run.reads.length > 0 && (
          <ul className="condensed mt-1">
            {run.reads.map((read) => (
              <li key={`${read.after}-${read.value_C}`} data-believed={read.believed}>
                after braking {read.after}, {read.axle}: {units.say(read.text)}
              </li>
            ))}
            <li className="text-muted">
              Cooling {run.cooling.toFixed(2)} of the estimate ({run.cooling_low.toFixed(2)} to{" "}
              {run.cooling_high.toFixed(2)}).
            </li>
          </ul>
        )}
        <p className="condensed mt-3 border-t border-hairline pt-2 text-muted">
          {run.closed && `${units.say(run.closed)} `}
          Empty road, within the law. The first brakings are weak: leave room. Never to a standstill while
          hot.
        </p>
        <p className="mt-2 flex flex-wrap items-center gap-3">
          <Button small onClick={() => navigate(`/m/${machineId}/bed`)}>
            Back to Bed
          </Button>
          <Switches />
        </p>
      </section>
    </div>
  );
}

function Kept({ waiting, connected, stored }: { waiting: number; connected: boolean; stored: boolean }) {
  const words =
    waiting > 0
      ? connected
        ? "saving…"
        : `${waiting} kept here, no connection`
      : connected
        ? "saved"
        : "saved, no connection";
  return (
    <span className="condensed shrink-0 text-muted" data-waiting={waiting} data-stored={stored}>
      {words}
    </span>
  );
}

/** Who this is for, before it starts. */
function Before({ run, stored, onBegin }: { run: Run; stored: boolean; onBegin: () => void }) {
  const units = useUnits();
  return (
    <div>
      <p className="text-lg font-semibold">
        For the passenger, or in a parked car. The driver's hands stay on the wheel and the eyes on the road.
      </p>
      <p className="mt-2">
        The passenger reads out one braking at a time and taps when it is done. {run.planned.length} in all,
        for {run.pad}; the front rings are to end between {units.figure(run.front.low_C, "temperature")} and{" "}
        {units.withUnit(run.front.high_C, "temperature")}.
      </p>
      {run.closed && (
        <p className="mt-2">
          <StateWord state="close">{units.say(run.closed)}</StateWord>
        </p>
      )}
      <p className="condensed mt-2 text-muted">
        {stored
          ? "Kept on this device: it needs no connection any more, and opens again without one. What is tapped is sent when there is one."
          : "What is tapped is sent when there is a connection. This page is not kept on the device yet: leave it open on the way."}
      </p>
      <Button primary className="mt-4 min-h-16 w-full text-xl" onClick={onBegin}>
        Begin
      </Button>
    </div>
  );
}

function Switches() {
  const sound = useStore(soundStore);
  const shake = useStore(shakeStore);
  const box = "mt-0.5 size-4 accent-ink";
  return (
    <>
      <label className="flex min-h-6 gap-2">
        <input
          type="checkbox"
          className={box}
          checked={sound === "on"}
          onChange={(event) => {
            allowSound();
            soundStore.set(event.target.checked ? "on" : "off");
          }}
        />
        sound
      </label>
      <label className="flex min-h-6 gap-2">
        <input
          type="checkbox"
          className={box}
          checked={shake === "on"}
          onChange={(event) => shakeStore.set(event.target.checked ? "on" : "off")}
        />
        vibration
      </label>
    </>
  );
}
