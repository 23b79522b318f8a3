import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { problemText } from "../../api/client";
import { useProgress } from "../../api/work";
import { type Said, verbatim } from "../../lib/said";
import { useUnits } from "../../lib/settings";
import { Button, Caution, Failure, GroupTitle, StateWord, Working } from "../../ui/basics";
import { Progress } from "../../ui/Progress";
import { useAnswer, useQuestions } from "./queries";

const margin = { left: 50 };
const plain: Record<string, Said> = {
  greatest_speed: {
    template: "How fast down this hill, with {left:temperatureChange} left to the fluid's boiling point?",
    values: margin,
  },
  greatest_trailer: {
    template: "How heavy a trailer, with {left:temperatureChange} left to the fluid's boiling point?",
    values: margin,
  },
  cooling_needed: verbatim("How much cooling keeps these pads in their window?"),
  cool_down: verbatim("How many gentle laps before parking?"),
};

/** Questions the other way round: the value that keeps everything within its limits, solved on the engine. */
export function Questions({ machineId }: { machineId: number }) {
  const found = useQuestions(machineId);
  if (found.error) return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  if (!found.data) return null;
  const { questions, noun } = found.data;
  return (
    <section aria-label="What would it take">
      <GroupTitle>What would it take?</GroupTitle>
      {questions.map((question) => (
        <Question
          key={`${machineId}-${question}`}
          machineId={machineId}
          question={question}
          text={plain[question] ?? verbatim(`How many ${noun}s before the first limit?`)}
        />
      ))}
      <p className="condensed mt-2 text-xs text-muted">
        With the set and duty in force, what is on the what-if sliders included. Answers are estimates.
      </p>
      {questions.includes("greatest_speed") && (
        <Caution>
          This is what the brakes bear. Bends, the law, the tyres and the trailer's stability set lower
          limits.
        </Caution>
      )}
    </section>
  );
}

function Question({ machineId, question, text }: { machineId: number; question: string; text: Said }) {
  const units = useUnits();
  const [asked, setAsked] = useState(false);
  const answer = useAnswer(machineId, question, asked);
  const queries = useQueryClient();
  const progress = useProgress(`answer-${question}`);
  return (
    <div className="border-t border-hairline py-2" data-question={question}>
      <div className="flex items-start justify-between gap-3">
        <p>{units.say(text)}</p>
        {!asked && (
          <Button small className="shrink-0" onClick={() => setAsked(true)}>
            Solve
          </Button>
        )}
      </div>
      {answer.isFetching &&
        (progress ? (
          <Progress
            {...progress}
            onStop={() => {
              queries.cancelQueries({ queryKey: ["machine", machineId, "answer"] });
              setAsked(false);
            }}
          />
        ) : (
          <Working>Trying values on the engine…</Working>
        ))}
      {answer.error && <Failure text={problemText(answer.error)} retry={() => answer.refetch()} />}
      {answer.data && !answer.isFetching && asked && (
        <p className="mt-1" data-outcome={answer.data.outcome}>
          {answer.data.outcome === "value" ? (
            <span className="font-semibold">{units.say(answer.data.text)}</span>
          ) : (
            <StateWord state={answer.data.outcome === "none" ? "over" : "fine"}>
              {units.say(answer.data.text)}
            </StateWord>
          )}
        </p>
      )}
    </div>
  );
}
