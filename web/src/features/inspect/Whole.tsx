import { useUnits } from "../../lib/settings";
import { GroupTitle } from "../../ui/basics";
import { PickCell } from "./picks";
import { ReadingCell } from "./ReadingCell";
import { useCell, useSheet } from "./sheet";

const levels = [
  ["", "not looked at"],
  ["between the marks", "between the marks"],
  ["low", "low"],
  ["below the mark", "below the mark"],
] as const;
const strips = [
  ["", "not tested"],
  ["good", "good"],
  ["used", "used"],
  ["change", "change"],
] as const;
const schools = [
  ["", "compute both"],
  ["always replace", "always replace, never machine"],
] as const;

/** What concerns the machine as a whole: fluid, how rotors are judged, a note. */
export function Whole() {
  const { inspection, open } = useSheet();
  const { withUnit } = useUnits();
  const note = useCell("note");
  const axles = [...new Map(inspection.wheels.map((wheel) => [wheel.axle, wheel])).values()];
  return (
    <div className="mt-3 grid gap-3 md:grid-cols-2">
      <section aria-label="Fluid" className="border border-hairline p-3">
        <GroupTitle>Fluid</GroupTitle>
        <div className="grid grid-cols-2 gap-2 sm:grid-cols-[5fr_3fr_4fr]">
          <PickCell name="fluid_level" label="Fluid level" short="Level" options={levels} />
          <ReadingCell name="fluid_age" label="Fluid age" short="Age, months" quantity="months" />
          <PickCell name="fluid_strip" label="Test strip" short="Test strip" options={strips} />
        </div>
        <label className="mt-2 block">
          <span className="condensed block text-xs text-muted">Note</span>
          <textarea
            className="min-h-16 w-full rounded-xs border border-ink bg-paper px-2 py-1 disabled:border-hairline"
            maxLength={2000}
            disabled={!open}
            defaultValue={typeof note.value === "string" ? note.value : ""}
            key={typeof note.value === "string" ? "kept" : "empty"}
            onBlur={(event) => {
              const text = event.target.value;
              if (text !== (note.value ?? "")) note.set(text || null);
            }}
          />
        </label>
      </section>
      <section aria-label="How rotors are judged" className="border border-hairline p-3">
        <GroupTitle>How rotors are judged</GroupTitle>
        <PickCell name="school" label="Worn rotors" short="Worn rotors" options={schools} />
        {axles.map((wheel) => (
          <div key={wheel.axle} className="mt-2 grid grid-cols-2 gap-2">
            <ReadingCell
              name={`${wheel.axle}.discard`}
              label={`Discard, cast in the hat, ${wheel.axle}`}
              unit
              otherwise={wheel.discard_m}
              hint={`catalogue ${withUnit(wheel.discard_m, "reading")}`}
            />
            <ReadingCell
              name={`${wheel.axle}.planned_wear`}
              label={`Wear to plan for, ${wheel.axle}`}
              unit
              otherwise={wheel.planned_wear_m}
              hint={`one pad set, estimate ${withUnit(wheel.planned_wear_m, "reading")}`}
            />
            <ReadingCell
              name={`${wheel.axle}.most_runout`}
              label={`Runout allowed, ${wheel.axle}`}
              unit
              otherwise={wheel.most_runout_m}
              hint={`the manual counts; estimate ${withUnit(wheel.most_runout_m, "reading")}`}
            />
          </div>
        ))}
      </section>
    </div>
  );
}
