import { Link, useParams } from "react-router";
import { problemText } from "../../api/client";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { dateText } from "../../lib/text";
import { Failure, Figure, StageTitle, Working } from "../../ui/basics";
import { Cell, Row, right, Table } from "../../ui/Table";
import { useHistory } from "./queries";

/** A pad set's or a pair of rotors' own history: on, off, readings, events, bedding, and what it cost. */
export function ThingPage() {
  const machineId = useMachineId();
  const { kind = "pads", thingId } = useParams();
  const units = useUnits();
  const found = useHistory(kind, Number(thingId));
  if (found.error) return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  if (!found.data) return <Working>Looking it up…</Working>;
  const { data } = found;
  const money = (value: number | null) => (value === null ? "–" : `${data.currency}${value.toFixed(2)}`);
  return (
    <>
      <StageTitle title={`${data.name}: its own history`} note={kind === "pads" ? "a pad set" : "rotors"} />
      <dl className="mb-4 flex flex-wrap gap-x-8 gap-y-2">
        <Figure
          label="driven on it"
          value={units.figure(data.driven_km, "distance")}
          unit={units.symbol("distance")}
        />
        <Figure label="sessions" value={data.sessions || "–"} />
        <Figure label="bought for" value={data.price > 0 ? money(data.price) : "–"} />
        <Figure label="cost a session" value={money(data.price_per_event)} />
        <Figure
          label={`cost in 1000 ${units.symbol("distance")}`}
          value={money(
            data.price_per_1000km === null
              ? null
              : data.price_per_1000km * (units.system === "metric" ? 1 : 1.609344),
          )}
        />
      </dl>
      <Table
        label="Its history"
        width="max-w-3xl"
        heads={["Day", right("odometer"), "What", right(`thickness, ${units.symbol("reading")}`), "On"]}
      >
        <tbody>
          {data.lines.map((line, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines of one day may read alike, and never move
            <Row key={index}>
              <Cell>{dateText(line.on)}</Cell>
              <Cell figures>
                {line.odometer_km === null ? "–" : units.withUnit(line.odometer_km, "distance")}
              </Cell>
              <Cell>
                {line.what} {line.position.replace(".", " ")}
              </Cell>
              <Cell figures>
                {line.thickness_m === null ? "" : units.figure(line.thickness_m, "reading")}
              </Cell>
              <Cell>{line.machine}</Cell>
            </Row>
          ))}
        </tbody>
      </Table>
      <p className="mt-4">
        <Link className="underline underline-offset-2" to={`/m/${machineId}/life`}>
          Back to the shelf
        </Link>
      </p>
    </>
  );
}
