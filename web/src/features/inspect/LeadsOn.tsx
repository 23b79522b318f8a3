import { useEffect, useRef } from "react";
import { Link } from "react-router";
import { printPage } from "../../lib/print";
import { useUnits } from "../../lib/settings";
import { Button, LinkButton, StateWord } from "../../ui/basics";
import { nextSteps } from "./leads";
import type { Inspection } from "./queries";

/** A finished sheet says what to do with it: where each thing that is due is settled. */
export function LeadsOn({ inspection, machineId }: { inspection: Inspection; machineId: number }) {
  const steps = nextSteps(inspection.rulings);
  const { say } = useUnits();
  const head = useRef<HTMLHeadingElement>(null);
  useEffect(() => head.current?.focus(), []);
  return (
    <section aria-label="What to do now" className="mb-4 border-l-2 border-ink pl-3">
      <h2 ref={head} tabIndex={-1} className="font-semibold outline-none">
        {steps.length > 0 ? "Finished. What to do now" : "Finished, and nothing is due"}
      </h2>
      <ul>
        {steps.map((step) => (
          <li key={step.subject} className="flex flex-wrap items-baseline gap-x-3 py-0.5">
            <StateWord state={step.state}>{say(step.what)}</StateWord>
            {step.to && (
              <Link className="min-h-6 underline underline-offset-2" to={`/m/${machineId}/${step.to}`}>
                {step.label}
              </Link>
            )}
          </li>
        ))}
      </ul>
      <p className="mt-2 flex flex-wrap gap-2">
        <Button onClick={printPage}>Print the sheet</Button>
        <LinkButton to={`/m/${machineId}/life`}>See how long the pads last</LinkButton>
      </p>
    </section>
  );
}
