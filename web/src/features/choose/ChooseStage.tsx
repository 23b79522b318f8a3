import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useProgress } from "../../api/work";
import { useMachineId } from "../../lib/route";
import { Caution, Failure, StageTitle, Working } from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { Later } from "../../ui/Later";
import { Progress } from "../../ui/Progress";
import { KeepForm, Kept } from "../decision";
import { useMachine } from "../machine/queries";
import { KeepTried } from "../whatif";
import { Buying } from "./Buying";
import { Compare } from "./Compare";
import { inOrder, ladderColumns, type Order, onePerPad, pickedOf, withTried } from "./candidates";
import { FewOffered } from "./FewOffered";
import { FitButton, FittedBar } from "./FitButton";
import { Fluids } from "./Fluids";
import { LadderPanel } from "./LadderPanel";
import { Ranked, Rejected } from "./lists";
import { useCandidates, useChances, useLevers, useTried } from "./queries";
import { WeightSliders, WhatIfSliders } from "./sliders";

type Weights = Schemas["WeightsIO"];

export function ChooseStage() {
  const id = useMachineId();
  const machine = useMachine(id);
  const [weights, setWeights] = useState<Weights | null>(null);
  const [mixed, setMixed] = useState(false);
  const [order, setOrder] = useState<Order | "best">("best");
  const choice = useCandidates(id, weights, mixed);
  const [picked, setPicked] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  const [compared, setCompared] = useState<string[]>([]);
  const queries = useQueryClient();
  const progress = useProgress("candidates");
  const doubting = useProgress("chances");
  const levers = useLevers(id).data;
  const ranked = choice.data?.ranked ?? [];
  const rejected = choice.data?.rejected ?? [];
  const chosen = pickedOf(ranked, rejected, picked);
  const best = ladderColumns(ranked, rejected, chosen?.key ?? null);
  const drawn = order === "best" ? best : inOrder(ranked, rejected, order);
  const [sight, setSight] = useState<string[]>([]);
  const inSight = drawn.filter((column) => sight.includes(column.key));
  const followed = order === "best" || inSight.length === 0 ? best : inSight;
  const tried = useTried(
    id,
    weights,
    mixed,
    followed.map((column) => column.key),
  );
  const settled = choice.data !== undefined && !choice.isFetching && !tried.moving;
  // What is always in sight, and the chosen one by itself: walking along the ladder must not start all of them again.
  const usual = [...ladderColumns(ranked, rejected, null), ...onePerPad(ranked).slice(0, 8)].map(
    ({ key }) => key,
  );
  const doubted = [...new Set(usual)].slice(0, 12);
  const alone = chosen && !doubted.includes(chosen.key) ? [chosen.key] : [];
  const sure = useChances(id, doubted, mixed, settled, "chances");
  const one = useChances(id, alone, mixed, settled && !sure.isFetching, "chance");
  const sets = [...(sure.data?.sets ?? []), ...(one.data?.sets ?? [])];
  const chances = settled && sure.data ? { ...sure.data, sets } : undefined;
  // Once everything is judged again under the same what-if, the few tried ahead of it are not needed.
  const ahead = choice.isPlaceholderData || tried.moving;
  const triedNow = ahead && tried.data ? [...tried.data.ranked, ...tried.data.rejected] : undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another machine starts from its own weights and choice
  useEffect(() => {
    setWeights(null);
    setPicked(null);
    setCompared([]);
    setMixed(false);
    setOrder("best");
  }, [id]);
  const onCompare = (key: string, on: boolean) =>
    setCompared(on ? [...compared, key] : compared.filter((other) => other !== key));

  if (choice.error && !choice.data)
    return <Failure text={problemText(choice.error)} retry={() => choice.refetch()} />;
  const stop = () => queries.cancelQueries({ queryKey: ["machine", id, "candidates"] });
  if (!choice.data && choice.fetchStatus === "idle")
    return <Failure text="Stopped before every set was judged." retry={() => choice.refetch()} />;
  if (!choice.data)
    return progress ? (
      <Progress {...progress} onStop={stop} />
    ) : (
      <Working>Simulating every pad and rotor this machine takes, through its duty…</Working>
    );
  const { total } = choice.data;
  const ticked = [...ranked, ...rejected].filter((entry) => compared.includes(entry.key));
  const kept = ticked.length > 0 ? ticked : onePerPad(ranked).slice(0, 3);
  const columns = withTried(drawn, triedNow);
  const selected = columns.find((column) => column.key === chosen?.key) ?? chosen;
  return (
    <>
      <StageTitle
        title="Which pads and rotors live through it"
        note={`Every set the machine takes, driven through its duty and ranked by what matters to you. ${machine.data?.duty ?? ""} · ${total} combinations · ${ranked.length} pass · ${rejected.length} rejected`}
      >
        <FitButton machineId={id} candidate={selected} weights={weights} mixed={mixed} />
      </StageTitle>
      <KeepTried machineId={id} levers={levers} />
      <FittedBar machineId={id} />
      <FewOffered machineId={id} nonePasses={ranked.length === 0} />
      {choice.data.left_out && (
        <p role="note" className="mb-3 max-w-prose border-l-2 border-close-fill pl-2">
          {choice.data.left_out}
        </p>
      )}
      {choice.error && <Failure text={problemText(choice.error)} retry={() => choice.refetch()} />}
      <div className="grid grid-cols-1 gap-x-8 gap-y-6 bay:grid-cols-1! lg:grid-cols-[minmax(0,1fr)_14.5rem]">
        <div className="min-w-0" aria-busy={choice.isFetching || tried.isFetching || tried.moving}>
          <LadderPanel
            machineId={id}
            mixed={mixed}
            columns={columns}
            ranked={ranked}
            selected={selected?.key ?? null}
            fluid={
              selected && {
                now_C: selected.fluid_peak_C,
                boiling_C: choice.data.boiling_C,
                dry_C: choice.data.fluid_dry_C,
                wet_C: choice.data.fluid_wet_C,
              }
            }
            chances={chances}
            onSelect={setPicked}
            onSight={setSight}
          />
          <div className="mt-1 flex flex-wrap items-end gap-x-6 gap-y-2">
            <div className="w-56">
              <SelectField
                label="On the ladder"
                value={order}
                options={[
                  ["best", "the best and a warning"],
                  ["score", `all ${total}, best first`],
                  ["peak", `all ${total}, coolest first`],
                  ["window", `all ${total}, by window`],
                  ["life", `all ${total}, longest life first`],
                  ["cost", `all ${total}, cheapest first`],
                ]}
                onChange={(value) => setOrder(value as Order | "best")}
              />
            </div>
            <label className="flex min-h-8 items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-ink"
                checked={mixed}
                onChange={(event) => {
                  setMixed(event.target.checked);
                  setCompared([]);
                }}
              />
              Mix compounds front and rear
            </label>
          </div>
          <p className="condensed mt-1 text-xs text-muted">
            Solid frame: the pad's window. Dotted below: too cold. Dashed above: too hot, up to its limit.
            Double bar: the rotor's limit. Shape: where the braking energy falls. Fluid: filled to its
            hottest, dashed wet, thick line today.
          </p>
          {doubting && (
            <Progress
              {...doubting}
              onStop={() => queries.cancelQueries({ queryKey: ["machine", id, "chances"] })}
            />
          )}
          {compared.length === 1 && (
            <p className="mt-3 text-muted">Tick one more to see the two side by side; up to four.</p>
          )}
          {compared.length > 1 && (
            <Compare
              machineId={id}
              keys={compared}
              mixed={mixed}
              onDrop={(key) => onCompare(key, false)}
              onSelect={setPicked}
            />
          )}
          <div className={ahead ? "opacity-60" : ""}>
            <Ranked
              mixed={mixed}
              weights={weights}
              chances={chances}
              candidates={all ? ranked : onePerPad(ranked)}
              every={ranked}
              selected={selected?.key ?? null}
              onSelect={setPicked}
              compared={compared}
              onCompare={onCompare}
            />
            {ranked.length > onePerPad(ranked).length && (
              <button
                type="button"
                className="mt-1 underline underline-offset-2"
                onClick={() => setAll(!all)}
              >
                {all ? "Only the best rotors for each pad" : `All ${ranked.length} that pass, rotor by rotor`}
              </button>
            )}
            {ranked.length === 0 && (
              <p className="mt-3 max-w-prose">
                Nothing in the catalogue lives through this. Look at the reasons below: more cooling, a slower
                group, less speed or mass on the descent would each take heat out.
              </p>
            )}
            <Rejected
              machineId={id}
              mixed={mixed}
              chances={chances}
              candidates={rejected}
              onSelect={setPicked}
              compared={compared}
              onCompare={onCompare}
            />
          </div>
          <Later>
            <KeepForm
              machineId={id}
              keys={kept.map((entry) => entry.key)}
              names={kept.map((entry) => entry.pads)}
              weights={weights}
              mixed={mixed}
              duty={machine.data?.duty ?? ""}
            />
            <Kept machineId={id} />
            {selected && !selected.set_up && (
              <Buying key={selected.key} machineId={id} candidate={selected} mixed={mixed} />
            )}
            <Fluids machineId={id} candidate={selected} mixed={mixed} moving={choice.isFetching} />
          </Later>
        </div>
        <aside>
          <Later>
            <WeightSliders
              weights={weights ?? choice.data.weights}
              presets={choice.data.presets}
              onCommit={setWeights}
            />
            <WhatIfSliders machineId={id} />
            {progress ? (
              <Progress {...progress} onStop={stop} />
            ) : (
              choice.isFetching && <Working>Judging every set again…</Working>
            )}
            {choice.isPlaceholderData && choice.fetchStatus === "idle" && (
              <Failure text="The list is of before the what-if." retry={() => choice.refetch()} />
            )}
          </Later>
        </aside>
      </div>
      <Caution>
        Estimates that support a decision; they certify nothing. Whether a part is allowed on the road is a
        matter of local law; where in doubt ask a qualified technician.
      </Caution>
    </>
  );
}
