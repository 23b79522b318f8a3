import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useProgress } from "../../api/work";
import { RunTrace } from "../../charts/RunTrace";
import { useUnits } from "../../lib/settings";
import { clockText } from "../../lib/text";
import { Button, Failure, Figure, StateWord, Working } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { SelectField, TextField } from "../../ui/fields";
import { Progress } from "../../ui/Progress";
import { Cell, Row, Table } from "../../ui/Table";
import { type Reading, type Use, useDuties, useKeepRun, useLogARun, useLook, useReadRun } from "./queries";
import { doneText, guessedUses, missing, roleWords, smoothings, withRole } from "./runs";

type Props = { machineId: number; onDone: (duty_id: number | null) => void };

/** A recorded run: drop the file, say what its columns hold, see what was made of it, keep it as a duty. */
export function RunImport({ machineId, onDone }: Props) {
  const look = useLook();
  const [file, setFile] = useState<File | null>(null);
  const [uses, setUses] = useState<Use[]>([]);
  const [over, setOver] = useState(false);
  function take(next: File) {
    setFile(next);
    setUses([]);
    look.mutate(next, { onSuccess: (found) => setUses(guessedUses(found)) });
  }
  const lacking = look.data?.kind === "csv" ? missing(uses) : null;
  return (
    <section aria-label="A recorded run" className="min-w-0">
      <h2 className="text-base font-semibold">A recorded run</h2>
      <p className="mb-2 max-w-prose text-muted">
        A table of text with time (or distance) and speed, any columns, units and separators, 1 to 25 readings
        a second; or a GPX 1.1 track with times.
      </p>
      <label
        className={`flex min-h-24 cursor-pointer flex-col items-center justify-center border border-dashed border-ink p-4 text-center has-focus-visible:outline-2 ${over ? "bg-paper" : ""}`}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          setOver(false);
          const dropped = event.dataTransfer.files[0];
          if (dropped) take(dropped);
        }}
      >
        <span className="font-semibold">
          {file ? file.name : "Drop the logger's file here, or choose it"}
        </span>
        <span className="condensed text-muted">
          {file ? `${Math.max(1, Math.round(file.size / 1000))} kB · choose another` : "CSV, TXT, GPX"}
        </span>
        <input
          type="file"
          className="sr-only"
          accept=".csv,.txt,.tsv,.gpx,text/csv,text/plain"
          onChange={(event) => {
            const chosen = event.target.files?.[0];
            if (chosen) take(chosen);
            event.target.value = "";
          }}
        />
      </label>
      <StandIn machineId={machineId} onFile={take} />
      {look.isPending && <Working>Looking at the file…</Working>}
      {look.error && <Failure text={problemText(look.error)} />}
      {look.data && file && !look.error && (
        <>
          {look.data.kind === "csv" && <Mapping look={look.data} uses={uses} onChange={setUses} />}
          {lacking ? (
            <StateWord state="close">{lacking}</StateWord>
          ) : (
            <Found
              key={`${file.name}-${file.lastModified}-${file.size}`}
              machineId={machineId}
              file={file}
              uses={uses}
              onDone={onDone}
            />
          )}
        </>
      )}
      <div className="mt-4">
        <Button onClick={() => onDone(null)}>Back to the duties</Button>
      </div>
    </section>
  );
}

/** The simulated logger of the demo: it records this machine and hands over a file, noise, drop-outs and all. */
function StandIn({ machineId, onFile }: { machineId: number; onFile: (file: File) => void }) {
  const duties = (useDuties().data ?? []).filter(
    ({ shape }) => shape.kind === "session" || shape.kind === "sections",
  );
  const log = useLogARun(machineId);
  const [chosen, setChosen] = useState("");
  const [kind, setKind] = useState<"csv" | "gpx">("csv");
  const [rate, setRate] = useState("10");
  const duty = chosen || String(duties[0]?.id ?? "");
  if (duties.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="condensed cursor-pointer underline underline-offset-2">
        No logger at hand? A simulated one drives and delivers a file
      </summary>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <div className="w-64">
          <SelectField
            label="It records"
            value={duty}
            options={duties.map((row) => [String(row.id), row.name] as const)}
            onChange={setChosen}
          />
        </div>
        <SelectField
          label="Readings a second"
          value={rate}
          options={["1", "5", "10", "25"].map((text) => [text, text] as const)}
          onChange={setRate}
        />
        <SelectField
          label="Delivers"
          value={kind}
          options={[
            ["csv", "CSV"],
            ["gpx", "GPX"],
          ]}
          onChange={(next) => setKind(next as typeof kind)}
        />
        <Button
          disabled={log.isPending}
          onClick={() =>
            log.mutate(
              { duty_id: Number(duty), kind, rate_Hz: Number(rate), noise_mps: 0.15, seed: 1 },
              { onSuccess: onFile },
            )
          }
        >
          Record a run
        </Button>
      </div>
      {log.error && <Failure text={problemText(log.error)} />}
    </details>
  );
}

type MappingProps = { look: Schemas["LookOut"]; uses: Use[]; onChange: (uses: Use[]) => void };

function Mapping({ look, uses, onChange }: MappingProps) {
  const separators: Record<string, string> = { "\t": "tabs", ",": "commas", ";": "semicolons", "|": "bars" };
  return (
    <div className="mt-4">
      <h3 className="font-semibold">What its columns hold</h3>
      <p className="condensed mb-1 text-muted">
        {look.lines} lines, {separators[look.separator] ?? look.separator} between columns, decimal{" "}
        {look.decimal === "," ? "comma" : "point"}, first reading on line {look.first_line}.
      </p>
      <div className="overflow-x-auto">
        <Table
          heads={look.columns.map((column, index) => {
            const use = uses.find((entry) => entry.column === index);
            const units = use ? (look.roles[use.role] ?? []) : [];
            return {
              className: "min-w-28 space-y-1 align-top",
              text: (
                <>
                  <span className="condensed block text-xs text-muted">{column.name}</span>
                  <SelectField
                    bare
                    label={`Column ${index + 1}, ${column.name}, holds`}
                    value={use?.role ?? ""}
                    options={[
                      ["", "not used"],
                      ...Object.keys(look.roles).map((role) => [role, roleWords[role] ?? role] as const),
                    ]}
                    onChange={(role) => onChange(withRole(uses, index, role, look))}
                  />
                  {use && units.length > 1 && (
                    <SelectField
                      bare
                      label={`Unit of ${column.name}`}
                      value={use.unit}
                      options={units.map(
                        (unit) => [unit, unit === "clock" ? "h:m:s or date" : unit] as const,
                      )}
                      onChange={(unit) =>
                        onChange(uses.map((entry) => (entry.column === index ? { ...entry, unit } : entry)))
                      }
                    />
                  )}
                </>
              ),
            };
          })}
        >
          <tbody>
            {[0, 1, 2, 3].map((row) => (
              <Row key={row}>
                {look.columns.map((column, index) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: as above
                  <Cell key={index} className="figures text-xs">
                    {column.sample[row] ?? ""}
                  </Cell>
                ))}
              </Row>
            ))}
          </tbody>
        </Table>
      </div>
    </div>
  );
}

type FoundProps = { machineId: number; file: File; uses: Use[]; onDone: (duty_id: number | null) => void };

/** What was found in the rows and done to them, and the way to keep it. */
function Found({ machineId, file, uses, onDone }: FoundProps) {
  const units = useUnits();
  const queries = useQueryClient();
  const [smoothing, setSmoothing] = useState("auto");
  const [name, setName] = useState(file.name.replace(/\.[^.]+$/, ""));
  const reading: Reading = { file, uses, smoothing };
  const read = useReadRun(machineId, reading);
  const progress = useProgress("read-run");
  const keep = useKeepRun();
  const data = read.data;
  const stop = () => void queries.cancelQueries({ queryKey: ["machine", machineId, "read-run"] });
  return (
    <div className="mt-4 border-t border-ink pt-2" aria-busy={read.isFetching}>
      {progress && <Progress {...progress} onStop={stop} />}
      {read.isPending && read.fetchStatus === "idle" && (
        <Failure text="Reading was stopped." retry={() => read.refetch()} />
      )}
      {read.error && <Failure text={problemText(read.error)} retry={() => read.refetch()} />}
      {data && !read.error && (
        <>
          <div className="mb-2 flex flex-wrap items-end gap-x-8 gap-y-2">
            <p className="min-w-0 flex-1 basis-80" data-done>
              {doneText(data)}
            </p>
            <SelectField label="Smoothing" value={smoothing} options={smoothings} onChange={setSmoothing} />
          </div>
          <RunTrace
            t_s={data.t_s}
            v_mps={data.v_mps}
            brakings={data.brakings}
            laps={data.laps}
            system={units.system}
          />
          <dl className="mt-2 flex flex-wrap gap-x-8 gap-y-2">
            <Figure
              label="Way"
              value={units.figure(data.distance_m / 1000, "distance", 1)}
              unit={units.symbol("distance")}
            />
            <Figure
              label="Time"
              value={clockText(data.duration_s)}
              unit={`min:s, ${clockText(data.standing_s)} standing`}
            />
            <Figure label="Brakings found" value={String(data.brakings.length)} />
            <Figure label="Laps" value={String(data.laps.length)} unit={lapText(data.laps)} />
            {data.hottest_C.front !== undefined && (
              <Figure
                label="Ring, front · rear"
                value={`${units.figure(data.hottest_C.front, "temperature")} · ${units.figure(data.hottest_C.rear ?? 0, "temperature")}`}
                unit={`${units.symbol("temperature")} with the fitted set`}
              />
            )}
          </dl>
          <Logged logged={data.logged} />
          {data.remarks.map((remark) => (
            <p key={remark.code} className="mt-1">
              <StateWord state="close">{units.say(remark.text)}</StateWord>
            </p>
          ))}
          <BadRows count={data.bad_count} bad={data.bad} />
          <Form
            className="mt-4 flex flex-wrap items-end gap-3"
            onSend={() => {
              keep.mutate({ ...reading, name: name.trim() }, { onSuccess: (duty) => onDone(duty.id) });
            }}
          >
            <div className="w-64">
              <TextField label="Name of the duty" value={name} onChange={setName} />
            </div>
            <Button type="submit" primary disabled={!name.trim() || keep.isPending}>
              Keep as a duty
            </Button>
            <span className="condensed text-muted">The file itself is kept as well.</span>
          </Form>
          {keep.error && <Failure text={problemText(keep.error)} />}
        </>
      )}
    </div>
  );
}

/** What else the logger wrote down: temperatures can calibrate the machine once the run is kept. */
function Logged({ logged }: { logged: Record<string, number> }) {
  const units = useUnits();
  const parts = (["front", "rear"] as const).flatMap((axle) => {
    const peak = logged[`${axle}_temperature_C`];
    return peak === undefined ? [] : [`${axle} up to ${units.withUnit(peak, "temperature")}`];
  });
  if (logged.brake_pressure_Pa !== undefined)
    parts.push(`brake pressure up to ${units.withUnit(logged.brake_pressure_Pa, "pressure")}`);
  if (parts.length === 0) return null;
  return (
    <p className="mt-2" data-logged>
      Logged as well: {parts.join(", ")}. Temperatures can be used under Measured temperatures once the run is
      kept and in force.
    </p>
  );
}

function lapText(laps: Schemas["ReadOut"]["laps"]): string {
  if (laps.length === 0) return "no lap repeats";
  const best = Math.min(...laps.map((lap) => lap.seconds));
  return `best ${best.toFixed(1)} s`;
}

function BadRows({ count, bad }: { count: number; bad: Schemas["BadRowOut"][] }) {
  if (count === 0) return <p className="mt-2 text-muted">Every row could be read.</p>;
  return (
    <details className="mt-2" data-bad>
      <summary className="cursor-pointer">
        <StateWord state="close">{`${count} rows were kept out`}</StateWord>
        <span className="text-muted">
          {" "}
          · line {bad[0]?.line}: {bad[0]?.why}
        </span>
      </summary>
      <ul className="mt-1 max-h-48 overflow-y-auto">
        {bad.map((row) => (
          <li key={row.line} className="condensed">
            <span className="figures">line {row.line}</span>: {row.why}
          </li>
        ))}
        {count > bad.length && <li className="condensed text-muted">and {count - bad.length} more</li>}
      </ul>
    </details>
  );
}
