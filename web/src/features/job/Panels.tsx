import { useState } from "react";
import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { Failure, GroupTitle, Working } from "../../ui/basics";
import { TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { PictureButton } from "../../ui/PictureButton";
import { useSession } from "../session/queries";
import { BleedingPlan } from "./Bleeding";
import { Fasteners } from "./Fasteners";
import { useLasting, useLeftOut, useRemoveJobPhoto, useSayCost, useWriteNote } from "./queries";
import { useSheet } from "./sheet";
import { cornerText, timeText } from "./words";

/** What stands beside a sheet: fasteners, fluid, bleeding, cost, pictures, a note, and what does not belong to it. */
export function Panels() {
  return (
    <>
      <Fasteners />
      <Fluid />
      <BleedingPlan />
      <Cost />
      <Pictures />
      <Note />
      <LeftOut />
      <Files />
    </>
  );
}

function Fluid() {
  const { job } = useSheet();
  const { say } = useUnits();
  if (job.bleeding) return null;
  return (
    <section aria-label="Fluid" className="mb-6">
      <GroupTitle>Fluid pushed back</GroupTitle>
      <p className="condensed">{say(job.push_reason)}</p>
    </section>
  );
}

const costs = [
  ["rate_per_hour", "Own hour"],
  ["consumables_price", "Consumables"],
  ["parts_price", "Parts"],
  ["quote", "The shop's quote"],
] as const;

function Cost() {
  const { job, machineId, open } = useSheet();
  const { system } = useUnits();
  const currency = useSession().data?.currency ?? "";
  const say = useSayCost(machineId, job.id);
  const [asked, ask] = useState(false);
  const lasting = useLasting(job.id, asked);
  const { cost } = job;
  const value = {
    rate_per_hour: cost.rate_per_hour,
    consumables_price: cost.consumables_price,
    parts_price: cost.parts_said ? cost.parts_price : null,
    quote: cost.quote,
  };
  const saved = cost.quote !== null ? cost.quote - cost.total_price : null;
  return (
    <section aria-label="Time and cost" className="mb-6">
      <GroupTitle>Time and cost</GroupTitle>
      <p>
        {timeText(cost.took_s)} of {timeText(cost.expected_s)}
        <span className="condensed text-muted">
          {" "}
          ({cost.own_jobs >= 3 ? `the median of ${cost.own_jobs} jobs of yours` : "estimate"})
        </span>
      </p>
      <p>
        {currency}
        {cost.total_price.toFixed(0)}
        <span className="condensed text-muted"> done by yourself, parts and consumables in it</span>
        {saved !== null && (
          <span className="condensed block text-muted">
            the shop: {currency}
            {(cost.quote ?? 0).toFixed(0)}, {currency}
            {Math.abs(saved).toFixed(0)} {saved >= 0 ? "more" : "less"}
          </span>
        )}
      </p>
      {open && (
        <div className="mt-2 grid grid-cols-2 gap-3" data-boxes>
          {costs.map(([name, label]) => (
            <NumberField
              key={name}
              label={`${label}, ${currency}`}
              path={`costs.${name}`}
              quantity="finePrice"
              system={system}
              value={value[name]}
              nullable
              placeholder={name === "parts_price" ? cost.parts_price.toFixed(0) : "?"}
              onCommit={(next) => say.mutate({ costs: { [name]: next }, seen: { [name]: value[name] } })}
            />
          ))}
        </div>
      )}
      {say.error && <Failure text={problemText(say.error)} />}
      <details className="mt-2" onToggle={(event) => ask(event.currentTarget.open)}>
        <summary className="condensed cursor-pointer underline underline-offset-2">By what is driven</summary>
        {lasting.error && <Failure text={problemText(lasting.error)} />}
        {asked && !lasting.data && !lasting.error && <Working>Working out how long it lasts…</Working>}
        {lasting.data && (
          <p className="condensed">
            {lasting.data.per_1000_km_price === null
              ? "Nothing goes on that wears, or there is no duty."
              : `${currency}${lasting.data.per_1000_km_price.toFixed(2)} for each 1000 km, ${currency}${(lasting.data.per_hour_price ?? 0).toFixed(2)} for each hour of the duty.`}
          </p>
        )}
      </details>
    </section>
  );
}

function Pictures() {
  const { job, open, outbox } = useSheet();
  const remove = useRemoveJobPhoto(job.id);
  const there = job.photos.filter((photo) => !photo.removed);
  return (
    <section aria-label="Pictures" className="mb-6">
      <GroupTitle>Pictures</GroupTitle>
      <div className="flex flex-wrap gap-3">
        {there.map((photo) => (
          <figure key={photo.id}>
            <img
              src={`/api/job-photos/${photo.id}`}
              alt={`${cornerText(job.axle, photo.corner)}, ${photo.when}`}
              className="h-20 max-w-32 border border-hairline object-cover"
            />
            <figcaption className="condensed text-xs">
              {cornerText(job.axle, photo.corner)}, {photo.when}{" "}
              {open && (
                <button
                  type="button"
                  className="underline underline-offset-2"
                  onClick={() => remove.mutate(photo.id)}
                >
                  Take out
                </button>
              )}
            </figcaption>
          </figure>
        ))}
      </div>
      {open && (
        <p className="mt-1 flex flex-wrap gap-4">
          {(["before", "after"] as const).map((when) => (
            <PictureButton
              key={when}
              className="min-h-8 underline underline-offset-2"
              onPicture={(file) => void outbox.photo("", when, file)}
            >
              Add one, {when}
            </PictureButton>
          ))}
        </p>
      )}
      {remove.error && <Failure text={problemText(remove.error)} />}
    </section>
  );
}

function Note() {
  const { job, machineId, open } = useSheet();
  const write = useWriteNote(machineId, job.id);
  if (!open) return job.note ? <p className="mb-6">{job.note}</p> : null;
  return (
    <section aria-label="Note" className="mb-6">
      <TextField
        label="Note"
        path="note"
        lines={3}
        value={job.note}
        onCommit={(note) => write.mutate({ note, seen: job.note })}
      />
      {write.error && <Failure text={problemText(write.error)} />}
    </section>
  );
}

function Files() {
  const { job } = useSheet();
  return (
    <p className="condensed mt-4 flex gap-4">
      As a file:
      {["csv", "json"].map((kind) => (
        <a
          key={kind}
          className="underline underline-offset-2"
          href={`/api/jobs/${job.id}/file/${kind}`}
          download
        >
          {kind.toUpperCase()}
        </a>
      ))}
    </p>
  );
}

function LeftOut() {
  const { job, open } = useSheet();
  const { say } = useUnits();
  const [asked, ask] = useState(false);
  const found = useLeftOut(job.id, asked);
  if (!open) return null;
  return (
    <details onToggle={(event) => ask(event.currentTarget.open)}>
      <summary className="cursor-pointer text-muted underline underline-offset-2">
        Steps that do not belong to this sheet, and why
      </summary>
      {asked && !found.data && <Working>Looking…</Working>}
      <ul className="condensed mt-1">
        {found.data?.map((entry) => (
          <li key={entry.text} className="border-t border-hairline py-1">
            {entry.text} <span className="text-muted">— {say(entry.reason)}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
