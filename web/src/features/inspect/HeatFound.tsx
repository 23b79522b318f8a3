import { useState } from "react";
import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { Button, Failure, Working } from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { addEvidence, Calibrate, runOf } from "../duty";
import { useDuties, usePyrometer } from "../duty/queries";
import { useMachine } from "../machine/queries";

/** Temperatures that were found on the rotors: they go into the machine's calibration. */
export function HeatFound({ machineId }: { machineId: number }) {
  const machine = useMachine(machineId);
  const duties = useDuties();
  const duty = duties.data?.find((row) => row.id === machine.data?.duty_id);
  if (machine.isPending || duties.isPending) return <Working>Looking up the duty…</Working>;
  if (!duty) return <p className="text-muted">Choose a duty first: readings belong to what was driven.</p>;
  return (
    <>
      <p className="condensed text-muted">Readings count as taken after: {duty.name}</p>
      <Pyrometer machineId={machineId} />
      <Calibrate machineId={machineId} runId={runOf(duty)} />
    </>
  );
}

function Pyrometer({ machineId }: { machineId: number }) {
  const { system } = useUnits();
  const read = usePyrometer(machineId);
  const [axle, setAxle] = useState("front");
  const [since, setSince] = useState<number | null>(120);
  const [speed, setSpeed] = useState<number | null>(0);
  const [seed, setSeed] = useState(1);
  return (
    <details className="my-3 border border-hairline px-3 py-2">
      <summary className="cursor-pointer">Simulated pyrometer</summary>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <div className="w-24">
          <SelectField
            label="Held at"
            value={axle}
            options={[
              ["front", "front"],
              ["rear", "rear"],
            ]}
            onChange={setAxle}
          />
        </div>
        <NumberField
          label="Since the last braking"
          quantity="minutes"
          value={since}
          system={system}
          onCommit={setSince}
        />
        <NumberField label="At" quantity="speed" value={speed} system={system} onCommit={setSpeed} />
        <Button
          disabled={read.isPending || since === null || speed === null}
          onClick={() => {
            if (since === null || speed === null) return;
            setSeed(seed + 1);
            const body = {
              axle: axle === "rear" ? ("rear" as const) : ("front" as const),
              since_s: since,
              speed_mps: speed,
              seed,
              cooling_factor: 1.15,
            };
            read.mutate(body, {
              onSuccess: ({ value_C }) =>
                addEvidence(machineId, {
                  kind: "pyrometer",
                  axle: body.axle,
                  part: "ring",
                  value_C,
                  since_s: since,
                  speed_mps: speed,
                }),
            });
          }}
        >
          Hold it on the ring
        </Button>
      </div>
      <p className="condensed mt-1 text-xs text-muted">
        It reads a machine that is cooled better than the model thinks; the fit should find out by how much.
      </p>
      {read.error && <Failure text={problemText(read.error)} />}
    </details>
  );
}
