import { useState } from "react";
import { useSearchParams } from "react-router";
import { problemText } from "../../api/client";
import { useMachineId } from "../../lib/route";
import { dateText } from "../../lib/text";
import { Button, Caution, Failure, LinkButton, StageTitle, StateWord, Working } from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { useFit } from "../fit/queries";
import { useShelf } from "../life/queries";
import { JobPage } from "./JobPage";
import { useJobs, useStartJob, type Work } from "./queries";

/** The job that was picked, or the list of all with a way to begin. */
export function JobStage() {
  const machineId = useMachineId();
  const [search, setSearch] = useSearchParams();
  const asked = search.get("job");
  if (asked)
    return <JobPage key={asked} id={Number(asked)} machineId={machineId} onBack={() => setSearch({})} />;
  return <Jobs machineId={machineId} onOpen={(id) => setSearch({ job: String(id) })} />;
}

type ListProps = { machineId: number; onOpen: (id: number) => void };

function Jobs({ machineId, onOpen }: ListProps) {
  const jobs = useJobs(machineId);
  if (jobs.error) return <Failure text={problemText(jobs.error)} retry={() => jobs.refetch()} />;
  if (!jobs.data) return <Working>Opening the jobs…</Working>;
  const { data } = jobs;
  return (
    <>
      <StageTitle
        title="Do the job"
        note="A sheet built for this machine: corner by corner, torques from its own manual"
      />
      <ul className="mb-6 max-w-200">
        {data.jobs.map((row) => {
          const open = !row.closed_on && !row.abandoned;
          return (
            <li
              key={row.id}
              data-job={row.id}
              className="flex flex-wrap items-center justify-between gap-3 border-t border-hairline py-2"
            >
              <div>
                <p className="font-semibold">
                  {row.label}, {row.axle}
                  {row.parts && <span className="font-normal"> · {row.parts}</span>}
                </p>
                <p className="condensed text-muted">
                  {open
                    ? `${row.ticked} of ${row.steps} steps, begun ${dateText(row.started_at)} by ${row.started_by}`
                    : row.abandoned
                      ? `given up; begun ${dateText(row.started_at)} by ${row.started_by}`
                      : `closed ${dateText(row.closed_on)}`}
                </p>
              </div>
              <div className="flex items-center gap-3">
                <StateWord state={open ? "close" : "fine"}>
                  {open ? "open" : row.abandoned ? "given up" : "closed"}
                </StateWord>
                <Button primary={open} onClick={() => onOpen(row.id)}>
                  {open ? "Go on" : "Read it"}
                  <span className="sr-only">
                    : {row.label}, {row.axle}
                  </span>
                </Button>
              </div>
            </li>
          );
        })}
      </ul>
      {data.jobs.length === 0 && (
        <p className="mb-4 max-w-180">
          No job yet. Say under Fit which parts are to go on, then build the sheet here; clean and refit, a
          flush or a hose needs no parts said.
        </p>
      )}
      <Start machineId={machineId} works={data.works} intended={data.intended} onOpen={onOpen} />
      <Caution>
        Procedures and torques are those of the vehicle's own manual: nothing is filled in here. Stands,
        chocks, never under a jack alone. Where in doubt, a qualified technician.
      </Caution>
    </>
  );
}

type StartProps = ListProps & { works: { option: string; label: string }[]; intended: boolean };

function Start({ machineId, works, intended, onOpen }: StartProps) {
  const start = useStartJob(machineId);
  const fit = useFit(machineId).data;
  const shelf = useShelf(machineId).data ?? [];
  const [work, setWork] = useState<Work>(intended ? "pads_rotors" : "clean");
  const [axle, setAxle] = useState<"front" | "rear">("front");
  const sets = shelf.filter((thing) => thing.kind === "pads" && !thing.on_machine && thing.axle === axle);
  const [set, setSet] = useState("");
  const parts = fit?.axles.find((entry) => entry.axle === axle);
  const needsParts = work === "pads" || work === "pads_rotors";
  const chosen = set || String(sets[0]?.id ?? "");
  return (
    <section aria-label="Build a sheet" className="max-w-200 border-t border-ink pt-3">
      <h2 className="mb-2 font-semibold">Build a sheet</h2>
      <div className="flex flex-wrap items-end gap-4">
        <SelectField
          label="Work"
          value={work}
          options={works.map((entry) => [entry.option, entry.label] as const)}
          onChange={(value) => setWork(value as Work)}
        />
        <SelectField
          label="Axle"
          value={axle}
          options={[
            ["front", "Front"],
            ["rear", "Rear"],
          ]}
          onChange={(value) => setAxle(value === "rear" ? "rear" : "front")}
        />
        {work === "swap" && (
          <SelectField
            label="Set from the shelf"
            value={chosen}
            options={
              sets.length
                ? sets.map((thing) => [String(thing.id), thing.name] as const)
                : [["", "none lies there"]]
            }
            onChange={setSet}
          />
        )}
        <Button
          primary
          disabled={start.isPending || (needsParts && !intended) || (work === "swap" && !chosen)}
          onClick={() =>
            start.mutate(
              { axle, work, pad_set_id: work === "swap" ? Number(chosen) : null },
              { onSuccess: (job) => onOpen(job.id) },
            )
          }
        >
          Build the sheet
        </Button>
      </div>
      {needsParts && intended && parts && (
        <p className="condensed mt-2 text-muted">
          Goes on: {parts.pads}
          {work === "pads_rotors" && ` on ${parts.rotors}`}
          {parts.verdict === "does not fit" && (
            <>
              {" "}
              <StateWord state="over">Fit says it does not go on</StateWord>
            </>
          )}
        </p>
      )}
      {needsParts && !intended && (
        <p className="mt-2 flex flex-wrap items-center gap-3">
          Say first which parts are to go on.
          <LinkButton to={`/m/${machineId}/fit`}>Check fit</LinkButton>
        </p>
      )}
      {start.error && <Failure text={problemText(start.error)} />}
    </section>
  );
}
