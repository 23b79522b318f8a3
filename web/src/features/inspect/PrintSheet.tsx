import { useUnits } from "../../lib/settings";
import { dateText } from "../../lib/text";
import { Cell, Row, Table } from "../../ui/Table";
import type { Inspection } from "./queries";
import { padWord, shareText } from "./words";

type Props = { inspection: Inspection; machine: string; owner: string };

/** The inspection on one sheet of paper: readings, verdicts, causes, and what it is not. */
export function PrintSheet({ inspection, machine, owner }: Props) {
  const { say, withUnit, figure, symbol } = useUnits();
  const cell = (name: string) => inspection.cells.find((row) => row.name === name)?.value;
  const length = (name: string) => {
    const value = cell(name);
    return typeof value === "number" ? figure(value, "reading") : "–";
  };
  const found = (wheel: string) =>
    inspection.cells
      .filter((row) => row.name.startsWith(`${wheel}.`) && !/\.(pad|rotor)_/.test(row.name))
      .map(({ name, value }) => {
        const what = name.slice(wheel.length + 1).replaceAll("_", " ");
        if (value === true) return what;
        return `${what} ${typeof value === "number" ? withUnit(value, "reading") : value}`;
      })
      .join(", ");
  return (
    <article className="hidden text-xs leading-snug text-black print:block" data-print-sheet>
      <h1 className="text-base font-semibold">
        {machine}, {owner}: brakes measured on {dateText(inspection.measured_on)},{" "}
        {withUnit(inspection.odometer_km, "distance")}
      </h1>
      <p>
        Set: {inspection.set_name}. Lengths in {symbol("reading")}; pads without backing plate
        {typeof cell("washers") === "number" ? `; rotors over washers of ${length("washers")} together` : ""}.
      </p>
      <Table
        className="mt-2"
        heads={[
          "Wheel",
          "Pad inner",
          "Pad outer",
          "Change at",
          "Rotor least",
          "varies",
          "new / discard",
          "Found",
        ]}
      >
        <tbody>
          {inspection.wheels.map((wheel) => {
            const rotor = inspection.rotors.find((row) => row.wheel === wheel.name);
            const pad = (side: string) => {
              const second = length(`${wheel.name}.pad_${side}_2`);
              const word = inspection.pads[`${wheel.name}.${side}`];
              const both = second === "–" ? "" : ` / ${second}`;
              return `${length(`${wheel.name}.pad_${side}_1`)}${both}${word ? `, ${padWord[word]}` : ""}`;
            };
            return (
              <Row key={wheel.name}>
                <Cell>{wheel.label}</Cell>
                <Cell>{pad("inner")}</Cell>
                <Cell>{pad("outer")}</Cell>
                <Cell>{figure(wheel.pad_change_m, "reading")}</Cell>
                <Cell>{rotor ? figure(rotor.least_m, "reading") : "–"}</Cell>
                <Cell>{rotor ? figure(rotor.variation_m, "reading") : "–"}</Cell>
                <Cell>
                  {figure(wheel.rotor_new_m, "reading")} /{" "}
                  {figure(rotor?.discard_m ?? wheel.discard_m, "reading")}
                </Cell>
                <Cell>{found(wheel.name)}</Cell>
              </Row>
            );
          })}
        </tbody>
      </Table>
      <div className="mt-2 grid grid-cols-2 gap-4">
        <section>
          <h2 className="font-semibold">Verdicts</h2>
          <ul>
            {inspection.rulings.map((ruling) => (
              <li key={ruling.subject}>
                [{ruling.state}] {say(ruling.headline)}. {ruling.text && say(ruling.text)}
                {ruling.overruled && ` Overruled: ${ruling.overruled.word}, ${ruling.overruled.reason}.`}
              </li>
            ))}
          </ul>
        </section>
        <section>
          <h2 className="font-semibold">Symptoms and likely causes</h2>
          <p>
            {inspection.seen
              .filter((seen) => !seen.evidence.startsWith("found_"))
              .map((seen) => seen.text)
              .join("; ") || "Nothing noticed was entered."}
          </p>
          <ol>
            {inspection.causes.map((cause) => (
              <li key={cause.name}>
                {shareText(cause.share)} {cause.text}. Check: {cause.check}.
              </li>
            ))}
          </ol>
          {typeof cell("note") === "string" && <p>Note: {String(cell("note"))}</p>}
        </section>
      </div>
      <p className="mt-2 border-t border-black pt-1">
        Estimates support a decision, they certify nothing. Limits cast in the part and the vehicle's own
        manual come first; where in doubt, a qualified technician. Engine{" "}
        {inspection.engine_version || "of an open sheet"}.
      </p>
    </article>
  );
}
