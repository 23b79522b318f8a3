import { useState } from "react";
import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { Button, Failure, StateWord } from "../../ui/basics";
import { FormPart } from "../../ui/Form";
import { SelectField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import type { RunOutbox } from "./outbox";
import { type Card, secondsOf } from "./overlay";
import { type Run, useHoldPyrometer } from "./queries";

type Props = { run: Run; card: Card; skew_ms: number; outbox: RunOutbox; onClose: () => void };

/** A pyrometer's reading: which ring, how hot, how long after the last braking, moving or standing. */
export function ReadingForm({ run, card, skew_ms, outbox, onClose }: Props) {
  const { system, withUnit } = useUnits();
  const last = card.did.findLast((did) => did.how !== "skip");
  const [since, setSince] = useState<number>(() =>
    Math.min(3600, Math.round(secondsOf(run, Date.now(), skew_ms) - (last?.at_s ?? 0))),
  );
  const [axle, setAxle] = useState<"front" | "rear">("front");
  const [value, setValue] = useState<number | null>(null);
  const [moving, setMoving] = useState(true);
  const held = useHoldPyrometer(run.id);
  const speed = moving ? (card.gap?.speed_mps ?? last?.item.then_mps ?? 0) : 0;
  const send = () => {
    if (value === null) return;
    outbox.say({
      kind: "reading",
      at_s: secondsOf(run, Date.now(), skew_ms),
      axle,
      value_C: value,
      since_s: since,
      moving_mps: speed,
    });
    onClose();
  };
  return (
    <section aria-label="A reading">
      <h2 className="mb-2 text-xl font-bold">A reading</h2>
      <FormPart refused={null} onSend={send}>
        {(submit) => (
          <>
            <div className="flex flex-wrap gap-4">
              <SelectField
                label="Which ring"
                value={axle}
                options={[
                  ["front", "front"],
                  ["rear", "rear"],
                ]}
                onChange={(word) => setAxle(word === "rear" ? "rear" : "front")}
              />
              <NumberField
                label="Reads"
                path="value_C"
                quantity="temperature"
                system={system}
                value={value}
                nullable
                onChange={setValue}
              />
              <NumberField
                label="Since the last braking"
                path="since_s"
                quantity="seconds"
                system={system}
                value={since}
                onCommit={(next) => next !== null && setSince(next)}
              />
              <SelectField
                label="Meanwhile"
                value={moving ? "moving" : "standing"}
                options={[
                  ["moving", "driving on"],
                  ["standing", "standing"],
                ]}
                onChange={(word) => setMoving(word === "moving")}
              />
            </div>
            {moving ? (
              <p className="condensed mt-1 text-muted">at about {withUnit(speed, "speed")}</p>
            ) : (
              <p className="mt-1">
                <StateWord state="close">
                  Standing with hot pads prints them on the ring: roll a little, brake off.
                </StateWord>
              </p>
            )}
            <div className="mt-3 grid gap-2">
              <Button primary className="min-h-16 text-xl" disabled={value === null} onClick={submit}>
                Take this reading
              </Button>
              <Button
                className="min-h-11"
                disabled={held.isPending}
                onClick={() =>
                  held.mutate(
                    { axle, since_s: since, moving_mps: speed },
                    { onSuccess: (read) => setValue(read.value_C) },
                  )
                }
              >
                Let the stand-in pyrometer read
              </Button>
              <Button className="min-h-11" onClick={onClose}>
                No reading
              </Button>
            </div>
          </>
        )}
      </FormPart>
      <p className="condensed mt-2 text-muted">
        The stand-in reads a simulated car that is cooled otherwise than anybody knows, with its scatter.
      </p>
      {held.error && <Failure text={problemText(held.error)} />}
    </section>
  );
}
