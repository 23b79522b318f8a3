import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { problemText } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { dateText, todayIso } from "../../lib/text";
import { Button, Caution, Failure, StageTitle, StateWord, Working } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { Form } from "../../ui/Form";
import { NumberField } from "../../ui/NumberField";
import { Cell, Row, right, Table } from "../../ui/Table";
import { useMachine } from "../machine/queries";
import { Causes } from "./Causes";
import { Head } from "./Head";
import { HeatFound } from "./HeatFound";
import { LeadsOn } from "./LeadsOn";
import { Meaning } from "./Meaning";
import { PrintSheet } from "./PrintSheet";
import {
  type Inspection,
  useInspection,
  useInspections,
  useRemoveInspection,
  useStartInspection,
} from "./queries";
import { SheetContext, useOutbox } from "./sheet";
import { WheelPanel } from "./WheelPanel";
import { Whole } from "./Whole";

const care = (
  <>
    Wheels off: on stands, chocked, never under a jack alone. No compressed air on brake dust. Hot parts burn;
    fluid eats paint and skin. Limits cast in the part and the vehicle's own manual come before any number
    here; where in doubt, a qualified technician. A verdict supports a decision, it certifies nothing.
  </>
);

/** The inspection that is open, the one that was picked, or the list of all with a way to begin. */
export function InspectStage() {
  const machineId = useMachineId();
  const rows = useInspections(machineId);
  const [search, setSearch] = useSearchParams();
  const asked = search.get("sheet");
  const open = rows.data?.find((row) => !row.finished && !row.removed);
  const id = asked === "all" ? null : asked ? Number(asked) : (open?.id ?? null);
  // Finished, the sheet stays in sight: it says what to do now.
  const own = asked === null ? open?.id : undefined;
  useEffect(() => {
    if (own !== undefined) setSearch({ sheet: String(own) }, { replace: true });
  }, [own, setSearch]);
  if (rows.error) return <Failure text={problemText(rows.error)} retry={() => rows.refetch()} />;
  if (!rows.data) return <Working>Opening the inspections…</Working>;
  if (id !== null) {
    return <SheetOf key={id} id={id} machineId={machineId} onBack={() => setSearch({ sheet: "all" })} />;
  }
  return <Inspections machineId={machineId} onOpen={(sheet) => setSearch({ sheet: String(sheet) })} />;
}

type SheetProps = { id: number; machineId: number; onBack: () => void };

function SheetOf({ id, machineId, onBack }: SheetProps) {
  const found = useInspection(id);
  if (found.error) return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  if (!found.data) return <Working>Opening the sheet…</Working>;
  return <SheetView inspection={found.data} machineId={machineId} onBack={onBack} />;
}

type ViewProps = { inspection: Inspection; machineId: number; onBack: () => void };

function SheetView({ inspection, machineId, onBack }: ViewProps) {
  const outbox = useOutbox(machineId, inspection.id);
  const [heat, setHeat] = useState(false);
  const machine = useMachine(machineId);
  const open = !inspection.finished && !inspection.removed;
  return (
    <SheetContext.Provider value={{ inspection, outbox, open }}>
      <div className="print:hidden">
        <Head machineId={machineId} onBack={onBack} />
        {inspection.finished && <LeadsOn inspection={inspection} machineId={machineId} />}
        <nav aria-label="Wheels" className="sticky top-0 z-5 mb-2 flex gap-1 bg-chalk py-1 md:hidden">
          {inspection.wheels.map((wheel) => (
            <a
              key={wheel.name}
              href={`#${wheel.name}`}
              className="flex min-h-9 flex-1 items-center justify-center border border-ink px-1 text-center text-xs font-semibold"
            >
              {wheel.label}
            </a>
          ))}
        </nav>
        <div className="grid grid-cols-1 gap-x-6 gap-y-4 bay:grid-cols-1! lg:grid-cols-[minmax(0,1fr)_17rem]">
          <div>
            {inspection.before_on && (
              <p className="condensed mb-2 text-muted">
                In grey: read on {dateText(inspection.before_on)}. Set: {inspection.set_name}.
              </p>
            )}
            <div className="grid gap-3 bay:grid-cols-1! xl:grid-cols-2">
              {inspection.wheels.map((wheel) => (
                <WheelPanel key={wheel.name} wheel={wheel} />
              ))}
            </div>
            <Whole />
          </div>
          <aside>
            <Meaning />
            <Causes />
          </aside>
        </div>
        <details
          className="mt-4 border-t border-ink pt-2"
          onToggle={(event) => setHeat(event.currentTarget.open)}
        >
          <summary className="cursor-pointer font-semibold">
            Heat found on the rotors: paint, strips, pyrometer
          </summary>
          {heat && (
            <div className="max-w-2xl">
              <HeatFound machineId={machineId} />
            </div>
          )}
        </details>
        <Caution>{care}</Caution>
      </div>
      <PrintSheet
        inspection={inspection}
        machine={machine.data?.name ?? ""}
        owner={machine.data?.owner ?? ""}
      />
    </SheetContext.Provider>
  );
}

type ListProps = { machineId: number; onOpen: (id: number) => void };

function Inspections({ machineId, onOpen }: ListProps) {
  const rows = useInspections(machineId);
  const remove = useRemoveInspection(machineId);
  const { withUnit } = useUnits();
  const kept = (rows.data ?? []).filter((row) => !row.removed);
  const gone = (rows.data ?? []).filter((row) => row.removed);
  const open = kept.find((row) => !row.finished);
  return (
    <>
      <StageTitle
        title="Inspect what is there"
        note="Pads and rotors wheel by wheel: the verdict comes as you type, and the wear goes into Life."
      />
      {open ? (
        <Button primary onClick={() => onOpen(open.id)}>
          Go on with the inspection of {dateText(open.measured_on)}
        </Button>
      ) : (
        <Start machineId={machineId} onOpen={onOpen} />
      )}
      {kept.length === 0 && (
        <p className="mt-4 max-w-prose text-muted">
          No inspection yet. One pad, inner and outer, is enough to begin; a pad gauge or a caliper will do,
          and two washers for a rotor with a lip at its edge.
        </p>
      )}
      {kept.length > 0 && (
        <Table
          label="Inspections"
          className="mt-5"
          width="max-w-3xl"
          heads={[
            "Measured on",
            right("At"),
            { text: "Set", className: "max-md:hidden" },
            right("Cells"),
            "Worst",
          ]}
        >
          <tbody>
            {kept.map((row) => (
              <Row key={row.id}>
                <Cell>
                  <button
                    type="button"
                    className="min-h-6 font-semibold underline underline-offset-2"
                    onClick={() => onOpen(row.id)}
                  >
                    {dateText(row.measured_on)}
                  </button>
                </Cell>
                <Cell figures>{withUnit(row.odometer_km, "distance")}</Cell>
                <Cell className="max-md:hidden">{row.set_name}</Cell>
                <Cell figures>{row.readings}</Cell>
                <Cell>{row.finished ? row.worst && <StateWord state={row.worst} /> : <span>open</span>}</Cell>
              </Row>
            ))}
          </tbody>
        </Table>
      )}
      {gone.length > 0 && (
        <p className="mt-4 text-muted">
          Taken out:{" "}
          {gone.map((row) => (
            <button
              key={row.id}
              type="button"
              className="mr-3 min-h-6 underline underline-offset-2"
              onClick={() => remove.mutate({ row: row.id, removed: false })}
            >
              bring back {dateText(row.measured_on)}
            </button>
          ))}
        </p>
      )}
      {remove.error && <Failure text={problemText(remove.error)} />}
      <Caution>{care}</Caution>
    </>
  );
}

function Start({ machineId, onOpen }: ListProps) {
  const machine = useMachine(machineId);
  const start = useStartInspection(machineId);
  const { system } = useUnits();
  const [on, setOn] = useState(() => todayIso());
  const [km, setKm] = useState<number | null>(null);
  const odometer = machine.data?.odometer_km;
  useEffect(() => setKm(odometer ?? null), [odometer]);
  const refused = useRefused(start.error);
  if (!machine.data) return null;
  return (
    <Form
      refused={refused}
      label="Start an inspection"
      className="flex flex-wrap items-end gap-4"
      onSend={() => {
        if (km === null) return;
        start.mutate({ measured_on: on, odometer_km: km }, { onSuccess: (found) => onOpen(found.id) });
      }}
    >
      <DateField label="Measured on" value={on} required onChange={setOn} />
      <NumberField
        label="Odometer"
        quantity="distance"
        value={odometer ?? null}
        system={system}
        onChange={setKm}
      />
      <Button primary type="submit" disabled={start.isPending || km === null}>
        Start measuring
      </Button>
    </Form>
  );
}
