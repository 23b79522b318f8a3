import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { todayIso } from "../../lib/text";
import { Button, Failure, LinkButton, StateWord, Working } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { FormPart } from "../../ui/Form";
import { CheckField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { useDecisions } from "../decision/queries";
import { useIntend } from "../fit/queries";
import { useMachine, useUseSetUp } from "../machine/queries";
import { toBeBedded, useVerdict } from "../verdict/queries";
import { fittedUnderStore, isTrying, useSettledWhatIf } from "../whatif";
import type { Candidate } from "./candidates";
import { useFitSet, useFittedSet, useUndoFit } from "./queries";

type Weights = Schemas["WeightsIO"];
type FitProps = { machineId: number; candidate: Candidate | null; weights: Weights | null; mixed: boolean };

type Place = Schemas["FitAsk"]["renew"][number];
/** What of a set is where, in the candidate and on the machine. */
const places: {
  name: Place;
  label: string;
  of: (candidate: Candidate) => string;
  on: (set: Schemas["SetOut"]) => string;
}[] = [
  { name: "front_pads", label: "front pads", of: (row) => row.pad, on: (set) => set.front_pads },
  { name: "rear_pads", label: "rear pads", of: (row) => row.rear_pad, on: (set) => set.rear_pads },
  { name: "front_rotors", label: "front rotors", of: (row) => row.front_rotor, on: (set) => set.front_rotor },
  { name: "rear_rotors", label: "rear rotors", of: (row) => row.rear_rotor, on: (set) => set.rear_rotor },
];

/** The chosen set onto the machine: what is the same stays, what is new all the same is ticked. */
export function FitButton({ machineId, candidate, weights, mixed }: FitProps) {
  const fit = useFitSet(machineId);
  const fitted = useFittedSet(machineId).data;
  const [fresh, setFresh] = useState<Place[]>([]);
  const { system } = useUnits();
  const odometer = useMachine(machineId).data?.odometer_km ?? null;
  // Parts that went on last year, and are only now written down.
  const [when, setWhen] = useState<{ on: string; odometer_km: number | null } | null>(null);
  const whatIf = useSettledWhatIf(machineId);
  const refused = useRefused(fit.error);
  if (!candidate) return null;
  if (candidate.rejected_for)
    return candidate.rejected_for === "too thick" ? (
      <CheckFit machineId={machineId} candidate={candidate} primary />
    ) : null;
  if (candidate.set_up) return <PutOnButton machineId={machineId} candidate={candidate} />;
  const same = fitted ? places.filter((place) => place.of(candidate) === place.on(fitted)) : [];
  const renew = same.map(({ name }) => name).filter((name) => fresh.includes(name));
  const onSend = () =>
    fit.mutate(
      { ...whatIf, key: candidate.key, reason: "", weights, mixed, renew, ...(when ?? {}) },
      {
        onSuccess: () => {
          setFresh([]);
          setWhen(null);
          if (isTrying(whatIf)) fittedUnderStore.set({ ...fittedUnderStore.get(), [machineId]: true });
        },
      },
    );
  return (
    <div className="max-w-80">
      <FormPart refused={refused} onSend={onSend}>
        {(send) => (
          <>
            {candidate.fitted && <StateWord state="fine">fitted now</StateWord>}
            {same.length > 0 && (
              <details className="mb-2">
                <summary className="cursor-pointer underline underline-offset-2">
                  {candidate.fitted
                    ? "Put new ones of the same on"
                    : `Stays on: ${same.map(({ label }) => label).join(", ")}`}
                </summary>
                <p className="condensed text-muted">
                  What is the same stays on with its history. Tick what goes on new all the same.
                </p>
                {same.map(({ name, label }) => (
                  <CheckField
                    key={name}
                    checked={fresh.includes(name)}
                    onChange={(on) =>
                      setFresh((before) => (on ? [...before, name] : before.filter((one) => one !== name)))
                    }
                  >
                    New {label}
                  </CheckField>
                ))}
              </details>
            )}
            {(!candidate.fitted || renew.length > 0) && (
              <details
                className="mb-2"
                open={when !== null}
                onToggle={(event) =>
                  setWhen(
                    event.currentTarget.open ? (when ?? { on: todayIso(), odometer_km: odometer }) : null,
                  )
                }
              >
                <summary className="cursor-pointer underline underline-offset-2">
                  It went on before today
                </summary>
                {when && (
                  <div className="mt-1 flex flex-wrap gap-3">
                    <DateField
                      label="Put on"
                      path="on"
                      value={when.on}
                      required
                      onChange={(on) => on && setWhen({ ...when, on })}
                    />
                    <NumberField
                      label="Odometer then"
                      path="odometer_km"
                      quantity="distance"
                      system={system}
                      value={when.odometer_km}
                      onCommit={(km) => setWhen({ ...when, odometer_km: km })}
                    />
                  </div>
                )}
              </details>
            )}
            {fit.isPending && <Working>Keeping what the choice rests on…</Working>}
            {(!candidate.fitted || renew.length > 0) && isTrying(whatIf) && (
              <p className="condensed mb-1 text-close">
                ◐ Chosen under a what-if: what of it is true is asked once it is on.
              </p>
            )}
            <p className="flex flex-wrap justify-end gap-2">
              {!candidate.fitted && <CheckFit machineId={machineId} candidate={candidate} />}
              {(!candidate.fitted || renew.length > 0) && (
                <Button primary disabled={fit.isPending} onClick={send}>
                  Fit {candidate.fitted ? "these new" : candidate.pads}
                </Button>
              )}
            </p>
          </>
        )}
      </FormPart>
    </div>
  );
}

type CheckProps = { machineId: number; candidate: Candidate; primary?: boolean };

/** Say that this set is to go on, and see on paper whether it does. */
function CheckFit({ machineId, candidate, primary }: CheckProps) {
  const intend = useIntend(machineId);
  const navigate = useNavigate();
  return (
    <>
      <Button
        primary={primary ?? false}
        disabled={intend.isPending}
        onClick={() =>
          intend.mutate({ key: candidate.key }, { onSuccess: () => navigate(`/m/${machineId}/fit`) })
        }
      >
        Check fit
      </Button>
      {intend.error && <Failure text={problemText(intend.error)} />}
    </>
  );
}

/** The set-up of a candidate goes on before its pads do. */
function PutOnButton({ machineId, candidate }: { machineId: number; candidate: Candidate }) {
  const use = useUseSetUp(machineId);
  return (
    <div className="max-w-72 text-right">
      {use.error && <Failure text={problemText(use.error)} />}
      <Button
        primary
        disabled={use.isPending}
        onClick={() => use.mutate(Number(candidate.key.split("+")[1]))}
      >
        Put on {candidate.set_up}
      </Button>
      <p className="condensed mt-1 text-xs text-muted">
        Then fit the pads. How the machine stands now is kept as a set-up of its own, under{" "}
        <Link className="underline underline-offset-2" to={`/m/${machineId}/machine`}>
          Machine
        </Link>
        .
      </p>
    </div>
  );
}

/** What is on, why it was chosen, and the way back. */
export function FittedBar({ machineId }: { machineId: number }) {
  const fitted = useFittedSet(machineId);
  const undo = useUndoFit(machineId);
  const decided = useDecisions(machineId).data?.find((row) => row.fitted && !row.removed);
  const toBed = toBeBedded(useVerdict(machineId).data?.stages ?? []);
  if (!fitted.data) return null;
  return (
    <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
      <p className="condensed text-muted">
        On the machine: <span className="text-ink">{fitted.data.name}</span>, rear {fitted.data.rear_rotor}.
      </p>
      {toBed && <LinkButton to={`/m/${machineId}/bed`}>Bed the pads in</LinkButton>}
      {decided && (
        <Link
          className="inline-flex min-h-6 items-center underline underline-offset-2"
          to={`/m/${machineId}/decision/${decided.id}`}
        >
          Why it was chosen
        </Link>
      )}
      {fitted.data.can_undo && (
        <button type="button" className="underline underline-offset-2" onClick={() => undo.mutate()}>
          Undo: put the set before it back on
        </button>
      )}
      {undo.error && <Failure text={problemText(undo.error)} />}
    </div>
  );
}
