import { useEffect, useRef, useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useSend } from "../../api/hooks";
import { at, useRefresh } from "../../api/keys";
import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { Button, Failure } from "../../ui/basics";
import { CheckField } from "../../ui/fields";
import { fittedUnderStore, noWhatIf, useWhatIf, type WhatIf } from "./whatIf";
import { whatIfParts } from "./whatIfWords";

/** Where what is true of a what-if goes. */
const goesTo: Record<keyof WhatIf, string> = {
  cooling_factor: "onto the machine, both axles",
  extra_mass_kg: "into the machine's mass",
  fluid_age_months: "as the fluid that is in",
  trailer_brake_share: "into the trailer's numbers",
  air_C: "into the duty",
  driver_level: "into the duty",
  repeats: "into the duty",
  speed_factor: "into the duty",
  gear: "into the duty",
  grade_factor: "into the duty",
  length_factor: "into the duty",
};

type Props = { machineId: number; levers: Schemas["LeversOut"] | undefined };

/** A set was fitted under a what-if: what of it is true is written down, so that the machine is the one it was chosen for. */
export function KeepTried({ machineId, levers }: Props) {
  const asking = useStore(fittedUnderStore)[machineId];
  const [whatIf, setWhatIf] = useWhatIf(machineId);
  const { system } = useUnits();
  const refresh = useRefresh(machineId);
  const [untrue, setUntrue] = useState<string[]>([]);
  const head = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    if (asking) head.current?.focus();
  }, [asking]);
  const done = () => {
    const { [machineId]: _, ...rest } = fittedUnderStore.get();
    fittedUnderStore.set(rest);
    setWhatIf(noWhatIf);
    setUntrue([]);
  };
  const keep = useSend(
    "post",
    "/api/machines/{machine_id}/what-if",
    (names: string[]) => at(machineId, { ...whatIf, names }),
    async () => {
      done();
      await refresh();
    },
  );
  const parts = levers ? whatIfParts(whatIf, levers, system) : [];
  if (!asking || parts.length === 0) return null;
  const names = parts.map(({ name }) => name).filter((name) => !untrue.includes(name));
  return (
    <section aria-label="Chosen under a what-if" className="mb-4 border-l-2 border-close-fill pl-3">
      <h2 ref={head} tabIndex={-1} className="font-semibold outline-none">
        ◐ It was chosen for a machine and a duty that are not as they stand. What of this is true?
      </h2>
      {parts.map(({ name, words }) => (
        <CheckField
          key={name}
          checked={!untrue.includes(name)}
          onChange={(on) =>
            setUntrue((before) => (on ? before.filter((one) => one !== name) : [...before, name]))
          }
        >
          {words} <span className="condensed text-muted">{goesTo[name]}</span>
        </CheckField>
      ))}
      {keep.error && <Failure text={problemText(keep.error)} />}
      <p className="mt-2 flex flex-wrap gap-2">
        <Button primary disabled={names.length === 0 || keep.isPending} onClick={() => keep.mutate(names)}>
          Write down what is ticked
        </Button>
        <Button onClick={done}>None of it: back to how it stands</Button>
      </p>
      <p className="condensed mt-1 text-xs text-muted">
        What is not ticked is dropped. A duty that others drive too is kept as it is; yours becomes one of its
        own.
      </p>
    </section>
  );
}
