import { Link } from "react-router";
import { problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { dateText } from "../../lib/text";
import { Button, Failure, GroupTitle } from "../../ui/basics";
import { padText } from "./parts";
import { useMount, useShelf } from "./queries";

type Thing = Schemas["ShelfThing"];

/** Pads and rotors of a machine: those on it and those on the shelf, each with its labels and its distance. */
export function Shelf({ machineId }: { machineId: number }) {
  const shelf = useShelf(machineId);
  const mount = useMount(machineId);
  if (shelf.error) return <Failure text={problemText(shelf.error)} retry={() => shelf.refetch()} />;
  const rows = shelf.data ?? [];
  return (
    <section aria-label="Shelf" className="mt-6">
      <GroupTitle>Pads and rotors of this machine</GroupTitle>
      <p className="mb-2 max-w-prose text-muted">
        What comes off usable keeps its history: put a label with this on every pad, so that it goes back
        where it was.
      </p>
      {mount.error && <Failure text={problemText(mount.error)} />}
      <ul className="grid gap-x-8 md:grid-cols-2">
        {rows.map((row) => (
          <ThingRow
            key={`${row.kind}${row.id}`}
            machineId={machineId}
            row={row}
            pending={mount.isPending}
            onMount={() => mount.mutate(row)}
          />
        ))}
      </ul>
    </section>
  );
}

const nouns = { pads: "pads", rotors: "rotors" };

type RowProps = { machineId: number; row: Thing; pending: boolean; onMount: () => void };

function ThingRow({ machineId, row, pending, onMount }: RowProps) {
  const units = useUnits();
  const where = row.on_machine
    ? `on the ${row.axle} axle`
    : `on the shelf since ${dateText(row.removed_on ?? row.arrived_on)}`;
  return (
    <li data-thing={row.on_machine ? "on" : "shelf"} className="border-t border-ink py-2">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <span className="font-semibold">
          {row.axle === "front" ? "Front" : "Rear"} {nouns[row.kind]}, {row.name}
        </span>
        <span className="condensed text-muted">{where}</span>
      </div>
      <p className="condensed text-muted">
        {row.fitted_on
          ? `${units.withUnit(row.driven_km, "distance")} driven on it; last put on ${dateText(row.fitted_on)}`
          : "new, as it came in its box"}
      </p>
      {row.readings.length > 0 ? (
        <ul className="mt-1 grid grid-cols-2 gap-1">
          {row.readings.map((reading) => (
            <li
              key={reading.position}
              className="condensed flex justify-between border border-hairline px-2 py-0.5"
            >
              <span>
                {row.kind === "pads"
                  ? padText(row.axle, reading.position)
                  : `${row.axle} ${reading.position}`}
              </span>
              <span className="figures">{units.withUnit(reading.thickness_m, "reading")}</span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="condensed text-muted">
          {row.fitted_on === null
            ? "Nothing was driven on it yet."
            : row.kind === "pads"
              ? "These pads were never told apart: inspect them before they come off."
              : "Their thickness was never read."}
        </p>
      )}
      <Link
        to={`/m/${machineId}/thing/${row.kind}/${row.id}`}
        className="condensed inline-flex min-h-6 items-center underline underline-offset-2 bay:min-h-11"
      >
        Its history
      </Link>
      {!row.on_machine && row.fits && (
        <Button className="mt-2" disabled={pending} onClick={onMount}>
          Put {row.kind === "pads" ? "these pads" : "these rotors"} {row.fitted_on ? "back on" : "on"}
        </Button>
      )}
    </li>
  );
}
