import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { SeasonRules } from "../../charts/SeasonRules";
import { useUnits } from "../../lib/settings";
import { dateText, todayIso } from "../../lib/text";
import { Button, Failure, LinkButton, StageTitle, Working } from "../../ui/basics";
import { Drawer } from "../../ui/Drawer";
import { CalendarFiles } from "./CalendarFiles";
import { Changes } from "./Changes";
import { EventForm } from "./EventForm";
import { Events } from "./Events";
import { Fluid } from "./Fluid";
import { useSeason } from "./season";

type Forecast = Schemas["ForecastOut"];
type Season = Schemas["SeasonOut"];

const nouns: Record<Forecast["kind"], string> = {
  pads: "pads",
  rings: "rings",
  fluid: "Fluid",
  hoses: "hoses",
  seals: "seals",
};

function labelOf(part: Forecast): string {
  if (!part.axle) return nouns[part.kind];
  const axle = part.axle === "front" ? "Front" : "Rear";
  return `${axle} ${nouns[part.kind]}${part.on_it ? "" : ", other set"}`;
}

/** What is to be done with a part, in a line over its rule. */
function wordOf(part: Forecast, season: Season): string {
  const used = part.chances.some((entry) => entry.chance !== null);
  if (!used) return "on none of these events";
  const change = season.changes.find((entry) => entry.key === part.key);
  if (change) {
    const by = change.order_by && !change.ordered ? `: order by ${dateText(change.order_by)}` : "";
    return `change before ${dateText(change.on)}${by}`;
  }
  const look = part.chances.findIndex((entry) => entry.word === "look");
  const event = season.axis[look];
  if (event) return `look before and after each from ${dateText(event.on)} on: hairlines`;
  if (part.due_on && part.due_on > todayIso() && part.kind !== "fluid")
    return `due by age ${dateText(part.due_on)}`;
  return season.usual ? "lasts through all of these" : "survives the season";
}

/** The whole season of a machine: every part along its events, what to change, what to order, and the events. */
export function SeasonPanel({ machineId, duty_id }: { machineId: number; duty_id: number }) {
  const found = useSeason(machineId);
  const units = useUnits();
  const [adding, setAdding] = useState(false);
  const [opened, setOpened] = useState<string | null>(null);
  if (found.error) return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  if (!found.data) return <Working>Carrying every part along the events…</Working>;
  const season = found.data;
  const next = season.planned[0];
  const score =
    season.readings > 0
      ? `of ${season.readings} readings ${season.inside} fell inside their range (80 % wanted)`
      : "no reading yet to hold the forecast against";
  const part = season.forecasts.find((entry) => entry.key === opened);
  return (
    <>
      <StageTitle
        title="What survives which event"
        note={`${season.usual ? "Nothing planned yet: events of the duty in force, at its usual pace" : `${season.planned.length} planned`} · ${score}`}
      >
        <Button onClick={() => setAdding(!adding)}>Add an event</Button>
        {next && (
          <LinkButton primary to={`/m/${machineId}/ready/${next.id}`}>
            Ready for {dateText(next.on)}?
          </LinkButton>
        )}
      </StageTitle>
      {adding && <EventForm machineId={machineId} duty_id={duty_id} onDone={() => setAdding(false)} />}
      <SeasonRules
        events={season.axis.map((event) => ({
          key: `${event.event_id ?? event.on}`,
          name: event.name,
          on: event.on,
        }))}
        parts={season.forecasts.map((entry) => ({
          key: entry.key,
          label: labelOf(entry),
          under: underOf(entry, units),
          word: wordOf(entry, season),
          state: entry.state,
          low: entry.until_low,
          high: entry.until_high,
          chances: entry.chances.map((one) => one.chance),
          words: entry.chances.map((one) => one.word),
        }))}
        onOpen={setOpened}
      />
      <p className="condensed mt-2 text-xs text-muted">
        Figures are the chance in % that a part holds through the event: ● survives, over 95; ◐ take spares,
        60 to 95, or for a ring look: hairlines are likely; ▲ change before it. Hatched: from 9 in 10 to 1 in
        10. Press a part to see how it was worked out. An estimate: it never clears a cracked ring or a wet
        hose.
      </p>
      <Changes machineId={machineId} season={season} />
      <Events machineId={machineId} season={season} duty_id={duty_id} />
      <CalendarFiles machineId={machineId} feed={season.feed} duty_id={duty_id} />
      <Fluid machineId={machineId} rows={season.fluid_readings} />
      <Drawer
        open={part !== undefined}
        onClose={() => setOpened(null)}
        title={part ? `${labelOf(part)}, ${part.name}` : ""}
      >
        {part && <Opened part={part} />}
      </Drawer>
    </>
  );
}

/** What stands under a part's name: what it is, and the two or three words that matter. */
function underOf(part: Forecast, units: ReturnType<typeof useUnits>): string {
  if (part.now_m !== null) {
    const digits = part.kind === "rings" ? 2 : 1;
    const now = units.figure(part.now_m, "thickness", units.system === "metric" ? digits : 3);
    const limit = units.figure(part.limit_m ?? 0, "thickness", units.system === "metric" ? digits : 3);
    return `${part.name}, ${now} to ${limit} ${units.symbol("thickness")}`;
  }
  const age = part.age_months ?? 0;
  return age < 24
    ? `${part.name}, ${Math.round(age)} months old`
    : `${part.name}, ${(age / 12).toFixed(1)} years old`;
}

/** A forecast opened: its formula, its numbers, what was taken for granted, and where that is from. */
function Opened({ part }: { part: Forecast }) {
  const units = useUnits();
  const { explained } = part;
  return (
    <div className="space-y-3">
      <p className="figures border border-hairline bg-paper px-2 py-1">{explained.formula}</p>
      <ul className="space-y-1">
        {explained.lines.map((line) => (
          <li key={units.say(line)} className="border-t border-hairline pt-1">
            {units.say(line)}
          </li>
        ))}
      </ul>
      {explained.taken.map((line) => (
        <p key={line.template} className="condensed text-muted">
          {units.say(line)}
        </p>
      ))}
      <p className="condensed text-xs text-muted">{explained.source}</p>
    </div>
  );
}
