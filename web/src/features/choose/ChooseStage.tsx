import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useCandidates, useFitSet, useFittedSet, useMachine, useTried, useUndoFit } from "../../api/queries";
import { useProgress } from "../../api/work";
import { HeatLadder } from "../../charts/HeatLadder";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { Button, Caution, Failure, StageTitle, StateWord, Working } from "../../ui/basics";
import { Progress } from "../../ui/Progress";
import { type Candidate, ladderColumns, onePerPad, place, withTried } from "./candidates";
import { Ranked, Rejected } from "./lists";
import { WeightSliders, WhatIfSliders } from "./sliders";

type Weights = Schemas["WeightsIO"];

export function ChooseStage() {
  const id = useMachineId();
  const units = useUnits();
  const machine = useMachine(id);
  const [weights, setWeights] = useState<Weights | null>(null);
  const choice = useCandidates(id, weights);
  const [picked, setPicked] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  const queries = useQueryClient();
  const progress = useProgress("candidates");
  const ranked = choice.data?.ranked ?? [];
  const rejected = choice.data?.rejected ?? [];
  const chosen = [...ranked, ...rejected].find((candidate) => candidate.key === picked) ?? ranked[0] ?? null;
  const drawn = ladderColumns(ranked, rejected, chosen?.key ?? null);
  const tried = useTried(
    id,
    weights,
    drawn.map((column) => column.key),
  );
  // Once everything is judged again under the same what-if, the few tried ahead of it are not needed.
  const ahead = choice.isPlaceholderData || tried.moving;
  const triedNow = ahead && tried.data ? [...tried.data.ranked, ...tried.data.rejected] : undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another machine starts from its own weights and choice
  useEffect(() => {
    setWeights(null);
    setPicked(null);
  }, [id]);

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
  const columns = withTried(drawn, triedNow);
  const selected = columns.find((column) => column.key === chosen?.key) ?? chosen;
  return (
    <>
      <StageTitle
        title="Which pads and rotors live through it"
        note={`${machine.data?.duty ?? ""} · ${total} combinations · ${ranked.length} pass · ${rejected.length} rejected`}
      >
        <FitButton machineId={id} candidate={selected} />
      </StageTitle>
      <FittedBar machineId={id} />
      {choice.error && <Failure text={problemText(choice.error)} retry={() => choice.refetch()} />}
      <div className="grid gap-x-8 gap-y-6 bay:grid-cols-1! lg:grid-cols-[minmax(0,1fr)_14.5rem]">
        <div className="min-w-0" aria-busy={choice.isFetching || tried.isFetching || tried.moving}>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region must be reachable by keyboard */}
          <section className="overflow-x-auto" tabIndex={0} aria-label="Heat ladder, scrolls sideways">
            <HeatLadder
              columns={columns.map((c) => ({ ...c, name: c.pad, rejected: c.rejected_for !== null }))}
              fluid={
                selected && {
                  now_C: selected.fluid_peak_C,
                  boiling_C: choice.data.boiling_C,
                  dry_C: choice.data.fluid_dry_C,
                  wet_C: choice.data.fluid_wet_C,
                }
              }
              selected={selected?.key ?? null}
              system={units.system}
              onSelect={setPicked}
            />
            <ol className="flex pl-[56px]" aria-label="Columns of the ladder">
              {columns.map((candidate) => (
                <li key={candidate.key} className="w-[150px] shrink-0 px-2.5">
                  <p className="truncate font-semibold">{candidate.pad}</p>
                  <p className="condensed truncate text-xs text-muted">{candidate.front_rotor}</p>
                  {candidate.rejected_for ? (
                    <StateWord state="over">{`out: ${candidate.rejected_for}`}</StateWord>
                  ) : (
                    <StateWord state="fine">{`${place(ranked, candidate.key)}, ${candidate.score.toFixed(0)} points`}</StateWord>
                  )}
                </li>
              ))}
            </ol>
          </section>
          <p className="condensed mt-1 text-xs text-muted">
            Solid frame: the pad's window. Dotted below: too cold. Dashed above: too hot, up to its limit.
            Double bar: the rotor's limit. Shape: where the braking energy falls. Fluid: filled to its
            hottest, dashed wet, thick line today.
          </p>
          <div className={ahead ? "opacity-60" : ""}>
            <Ranked
              candidates={all ? ranked : onePerPad(ranked)}
              every={ranked}
              selected={selected?.key ?? null}
              onSelect={setPicked}
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
            <Rejected candidates={rejected} onSelect={setPicked} />
          </div>
        </div>
        <aside>
          <WeightSliders weights={weights ?? choice.data.weights} onCommit={setWeights} />
          <WhatIfSliders machineId={id} airNow={machine.data?.values["environment.air_C"] ?? 20} />
          {progress ? (
            <Progress {...progress} onStop={stop} />
          ) : (
            choice.isFetching && <Working>Judging every set again…</Working>
          )}
          {choice.isPlaceholderData && choice.fetchStatus === "idle" && (
            <Failure text="The list is of before the what-if." retry={() => choice.refetch()} />
          )}
        </aside>
      </div>
      <Caution>
        Estimates that support a decision; they certify nothing. Whether a part is allowed on the road is a
        matter of local law; where in doubt ask a qualified technician.
      </Caution>
    </>
  );
}

function FitButton({ machineId, candidate }: { machineId: number; candidate: Candidate | null }) {
  const fit = useFitSet(machineId);
  if (!candidate || candidate.rejected_for) return null;
  if (candidate.fitted) return <StateWord state="fine">fitted now</StateWord>;
  return (
    <>
      {fit.error && <Failure text={problemText(fit.error)} />}
      <Button
        primary
        disabled={fit.isPending}
        onClick={() => fit.mutate({ key: candidate.key, reason: candidate.reason })}
      >
        Fit {candidate.pad}
      </Button>
    </>
  );
}

function FittedBar({ machineId }: { machineId: number }) {
  const fitted = useFittedSet(machineId);
  const undo = useUndoFit(machineId);
  if (!fitted.data) return null;
  return (
    <p className="condensed mb-3 text-muted">
      On the machine: <span className="text-ink">{fitted.data.name}</span>, rear {fitted.data.rear_rotor}.{" "}
      {fitted.data.can_undo && (
        <button type="button" className="underline underline-offset-2" onClick={() => undo.mutate()}>
          Undo: put the set before it back on
        </button>
      )}
      {undo.error && problemText(undo.error)}
    </p>
  );
}
