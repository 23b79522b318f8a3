import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { problemText } from "../../api/client";
import { useProgress } from "../../api/work";
import { useUnits } from "../../lib/settings";
import { Failure, StateWord, Working } from "../../ui/basics";
import { Progress } from "../../ui/Progress";
import type { Candidate } from "./candidates";
import { useWaysOut } from "./queries";

type Props = { machineId: number; candidate: Candidate; mixed: boolean };

/** What would have to change for a rejected set to pass: each lever alone, solved on the engine. */
export function WaysOut({ machineId, candidate, mixed }: Props) {
  const { say } = useUnits();
  const [asked, setAsked] = useState(false);
  const found = useWaysOut(machineId, candidate.key, mixed, asked);
  const queries = useQueryClient();
  const progress = useProgress(`ways-${candidate.key}`);
  const stop = () => {
    queries.cancelQueries({ queryKey: ["machine", machineId, "ways-out"] });
    setAsked(false);
  };
  if (!asked)
    return (
      <button
        type="button"
        className="ml-1 min-h-6 underline underline-offset-2"
        onClick={() => setAsked(true)}
      >
        What would let it pass?<span className="sr-only"> {candidate.pads}</span>
      </button>
    );
  return (
    <div className="mt-1" aria-busy={found.isFetching}>
      {found.isFetching &&
        (progress ? <Progress {...progress} onStop={stop} /> : <Working>Trying each lever alone…</Working>)}
      {found.error && <Failure text={problemText(found.error)} retry={() => found.refetch()} />}
      {found.data && !found.isFetching && (
        <ul className="mb-1 ml-3 border-l border-ink pl-3" aria-label={`Ways out for ${candidate.pads}`}>
          {found.data.ways.length === 0 && <li>As it is tried now, it passes.</li>}
          {found.data.ways.map((way) => (
            <li key={way.question} data-way={way.question} className="py-0.5">
              <StateWord state={way.outcome === "none" ? "over" : "fine"}>
                {way.outcome === "none" ? "no" : "yes"}
              </StateWord>{" "}
              {say(way.text)}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
