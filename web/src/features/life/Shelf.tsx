import { problemText, type Schemas } from "../../api/client";
import { useMountSet, useSets } from "../../api/inspectQueries";
import { useUnits } from "../../lib/settings";
import { dateText } from "../../lib/text";
import { Button, Failure, GroupTitle } from "../../ui/basics";
import { padText } from "./parts";

/** The sets of a machine: the one on it and those on the shelf, each with its labels and its distance. */
export function Shelf({ machineId }: { machineId: number }) {
  const sets = useSets(machineId);
  const mount = useMountSet(machineId);
  if (sets.error) return <Failure text={problemText(sets.error)} retry={() => sets.refetch()} />;
  const rows = sets.data ?? [];
  return (
    <section aria-label="Sets" className="mt-6">
      <GroupTitle>Sets of this machine</GroupTitle>
      <p className="mb-2 max-w-prose text-muted">
        A set that comes off usable keeps its history: put a label with this on every pad, so that it goes
        back where it was.
      </p>
      {mount.error && <Failure text={problemText(mount.error)} />}
      <ul className="grid gap-x-8 md:grid-cols-2">
        {rows.map((row) => (
          <SetRow key={row.id} row={row} pending={mount.isPending} onMount={() => mount.mutate(row.id)} />
        ))}
      </ul>
    </section>
  );
}

type RowProps = { row: Schemas["ShelfSet"]; pending: boolean; onMount: () => void };

function SetRow({ row, pending, onMount }: RowProps) {
  const units = useUnits();
  return (
    <li data-set={row.on_machine ? "on" : "shelf"} className="border-t border-ink py-2">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <span className="font-semibold">
          {row.name}
          {row.rear_name !== row.name.split(" on ")[0] && `, rear ${row.rear_name}`}
        </span>
        <span className="condensed text-muted">
          {row.on_machine ? "on the machine" : `on the shelf since ${dateText(row.removed_on)}`}
        </span>
      </div>
      <p className="condensed text-muted">
        {units.withUnit(row.driven_km, "distance")} driven on it; last put on {dateText(row.fitted_on)}
      </p>
      {row.parts.length > 0 ? (
        <ul className="mt-1 grid grid-cols-2 gap-1">
          {row.parts.map((part) => (
            <li
              key={`${part.axle}${part.position}`}
              className="condensed flex justify-between border border-hairline px-2 py-0.5"
            >
              <span>{padText(part.axle, part.position)}</span>
              <span className="figures">{units.withUnit(part.thickness_mm / 1000, "reading")}</span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="condensed text-muted">
          Its pads were never told apart: inspect it before it comes off.
        </p>
      )}
      {!row.on_machine && (
        <Button className="mt-2" disabled={pending} onClick={onMount}>
          Put it back on
        </Button>
      )}
    </li>
  );
}
