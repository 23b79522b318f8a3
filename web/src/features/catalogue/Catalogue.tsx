import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { FrictionCurves } from "../../charts/FrictionCurves";
import { useUnits } from "../../lib/settings";
import { Button, Caution, Failure, GroupTitle, StageTitle, Working } from "../../ui/basics";
import { Scroll } from "../../ui/Scroll";
import { Cell, Row, right, Table } from "../../ui/Table";
import { Import } from "./Import";
import { OwnReadings } from "./OwnReadings";
import { type OpenPart, PartForm } from "./PartForm";
import { useCatalogue } from "./queries";

const tabs = [
  ["compounds", "Pads"],
  ["rotors", "Rotors"],
  ["fluids", "Fluids"],
] as const;
type Tab = (typeof tabs)[number][0];
const MOST_CURVES = 6;

/** The parts the workshop can choose from, where their numbers are from, and the way in and out for them. */
export function Catalogue() {
  const catalogue = useCatalogue();
  const [tab, setTab] = useState<Tab>("compounds");
  const [taking, setTaking] = useState(false);
  const [part, setPart] = useState<OpenPart | null>(null);
  if (catalogue.error)
    return <Failure text={problemText(catalogue.error)} retry={() => catalogue.refetch()} />;
  if (!catalogue.data) return <Working>Opening the catalogue…</Working>;
  const { data } = catalogue;
  const counts: Record<Tab, number> = {
    compounds: data.compounds.length,
    rotors: data.rotors.length,
    fluids: data.fluids.length,
  };
  return (
    <>
      <StageTitle
        title="Catalogue"
        note="What Choose has to choose from. Every row says whether its numbers were measured, are the maker's, or a guess."
      >
        <Button aria-expanded={taking} onClick={() => setTaking(!taking)}>
          {taking ? "Close" : "Take in a file of parts"}
        </Button>
      </StageTitle>
      {taking && <Import />}
      <fieldset className="mb-3 flex flex-wrap gap-1">
        <legend className="sr-only">Which parts</legend>
        {tabs.map(([name, label]) => (
          <label
            key={name}
            className="flex min-h-9 cursor-pointer items-center border border-ink px-3.5 font-semibold has-checked:bg-ink has-checked:text-chalk has-focus-visible:outline-2"
          >
            <input
              type="radio"
              name="parts"
              className="sr-only"
              checked={tab === name}
              onChange={() => setTab(name)}
            />
            {label}, {counts[name]}
          </label>
        ))}
      </fieldset>
      {tab === "compounds" && <Compounds rows={data.compounds} currency={data.currency} onPart={setPart} />}
      {tab === "rotors" && <Rotors rows={data.rotors} currency={data.currency} onPart={setPart} />}
      {tab === "fluids" && <Fluids rows={data.fluids} currency={data.currency} onPart={setPart} />}
      <PartForm part={part} onClose={() => setPart(null)} />
      <Caution>
        The demo's parts are invented, their data plausible. Whether a part is legal on the road where you
        live, and made for your caliper and hub, its maker and the local rules say.
      </Caution>
    </>
  );
}

function Out({ table, label }: { table: string; label: string }) {
  return (
    <div className="my-2 flex flex-wrap gap-x-4">
      {(["csv", "xlsx"] as const).map((kind) => (
        <a
          key={kind}
          className="inline-flex min-h-6 items-center underline underline-offset-2"
          href={`/api/catalogue/file/${table}/${kind}`}
          download
        >
          {label} as {kind === "csv" ? "CSV" : "spreadsheet"}
        </a>
      ))}
    </div>
  );
}

type TableProps<Row> = { rows: Row[]; currency: string; onPart: (part: OpenPart) => void };

const fresh = (table: OpenPart["table"]): OpenPart => ({ table, name: "", second: "", key: {} });
const rotor = (row: { name: string; mount: string }): OpenPart => ({
  table: "rotors",
  name: row.name,
  second: row.mount,
  key: { name: row.name, mount: row.mount },
});
const plain = (table: "compounds" | "fluids", { name }: { name: string }): OpenPart => ({
  table,
  name,
  second: "",
  key: { name },
});

/** A part's name as the way to change it. */
function Name({ name, onOpen }: { name: string; onOpen: () => void }) {
  return (
    <button
      type="button"
      className="text-left font-semibold underline decoration-hairline underline-offset-2 hover:decoration-ink"
      onClick={onOpen}
    >
      {name}
      <span className="sr-only">, change</span>
    </button>
  );
}

/** To begin with: one compound of each of the first families, for they are what differs most. */
function firstOfEach(rows: Schemas["CompoundOut"][]): number[] {
  return rows
    .filter((row, index) => rows.findIndex((other) => other.family === row.family) === index)
    .slice(0, 3)
    .map((row) => row.id);
}

function Compounds({ rows, currency, onPart }: TableProps<Schemas["CompoundOut"]>) {
  const units = useUnits();
  const [drawn, setDrawn] = useState<number[]>(() => firstOfEach(rows));
  const [looked, setLooked] = useState<number | null>(null);
  const open = rows.find((row) => row.id === looked);
  const curves = rows
    .filter((row) => drawn.includes(row.id))
    .map((row) => ({
      name: row.name,
      window_C: [row.window_low_C, row.window_high_C] as [number, number],
      points: row.mu,
      own: row.own,
    }));
  const degrees = (value: number) => units.figure(value, "temperature");
  return (
    <>
      {curves.length > 0 ? (
        <Scroll label="Friction curves">
          <FrictionCurves curves={curves} system={units.system} />
        </Scroll>
      ) : (
        <p className="py-4 text-muted">Tick a compound to draw its friction.</p>
      )}
      <p className="condensed mb-2 text-xs text-muted">
        Bold inside the working window. Full dots are measured, hollow ones the maker's, dotted ones guessed;
        crosses are own readings.
      </p>

      <Table
        label="Compounds"
        width="min-w-240"
        heads={[
          "Draw",
          "Compound",
          "Family",
          "Source",
          right(`Window, ${units.symbol("temperature")}`),
          right("Limit"),
          right("Wear, mm³/MJ"),
          right(`Rotor wear a set, ${units.symbol("reading")}`),
          right("Noise"),
          right("Dust"),
          right("Shapes, readings"),
          right(`From, ${currency}`),
        ]}
      >
        <tbody>
          {rows.map((row) => (
            <Row key={row.id}>
              <Cell className="align-middle">
                <label className="flex items-center justify-center">
                  <input
                    type="checkbox"
                    aria-label={`Draw ${row.name}`}
                    className="size-4 accent-ink"
                    checked={drawn.includes(row.id)}
                    disabled={!drawn.includes(row.id) && drawn.length >= MOST_CURVES}
                    onChange={(event) =>
                      setDrawn(
                        event.target.checked ? [...drawn, row.id] : drawn.filter((id) => id !== row.id),
                      )
                    }
                  />
                </label>
              </Cell>
              <Cell>
                <Name name={row.name} onOpen={() => onPart(plain("compounds", row))} />
              </Cell>
              <Cell>{row.family}</Cell>
              <Cell>{row.provenance}</Cell>
              <Cell figures>
                {degrees(row.window_low_C)}–{degrees(row.window_high_C)}
              </Cell>
              <Cell figures>{degrees(row.limit_C)}</Cell>
              <Cell figures>{row.wear_mm3_per_MJ}</Cell>
              <Cell figures>
                {units.figure(row.rotor_wear_m, "reading")}
                {!row.rotor_wear_measured && <span className="condensed font-sans text-muted"> est.</span>}
              </Cell>
              <Cell figures>{row.noise}</Cell>
              <Cell figures>{row.dust}</Cell>
              <Cell figures>
                <button
                  type="button"
                  aria-expanded={looked === row.id}
                  className="min-h-6 underline underline-offset-2"
                  onClick={() => setLooked(looked === row.id ? null : row.id)}
                >
                  {row.shapes.length}
                  <span className="sr-only"> shapes and own readings of {row.name}</span>
                </button>
              </Cell>
              <Cell figures>
                {row.shapes.length ? Math.min(...row.shapes.map((shape) => shape.price)) : "–"}
              </Cell>
            </Row>
          ))}
        </tbody>
      </Table>

      {open && <Shapes compound={open} currency={currency} onPart={onPart} />}
      {open && <OwnReadings key={open.id} compound={open} />}
      <Add label="Add a compound" onAdd={() => onPart(fresh("compounds"))} />
      <Out table="compounds" label="Compounds" />
      <Out table="pad shapes" label="Pad shapes and prices" />
    </>
  );
}

type ShapesProps = { compound: Schemas["CompoundOut"]; currency: string; onPart: (part: OpenPart) => void };

/** The shapes one compound is sold in, each as the way to change it. */
function Shapes({ compound, currency, onPart }: ShapesProps) {
  const units = useUnits();
  return (
    <section aria-label={`Shapes of ${compound.name}`} className="mt-4 border-t border-ink pt-3">
      <GroupTitle>Shapes of {compound.name}</GroupTitle>
      <ul className="flex flex-wrap gap-x-8 gap-y-1">
        {compound.shapes.map((shape) => (
          <li key={shape.shape}>
            <Name
              name={shape.shape}
              onOpen={() =>
                onPart({
                  table: "pad shapes",
                  name: compound.name,
                  second: shape.shape,
                  key: { pad: compound.name, shape: shape.shape },
                })
              }
            />
            <span className="figures ml-2">
              {units.withUnit(shape.area_m2, "area", 1)}, {units.withUnit(shape.thickness_m, "thickness")},{" "}
              {currency}
              {shape.price}
            </span>
          </li>
        ))}
      </ul>
      <Add label={`Add a shape of ${compound.name}`} onAdd={() => onPart(fresh("pad shapes"))} />
    </section>
  );
}

function Add({ label, onAdd }: { label: string; onAdd: () => void }) {
  return (
    <p className="mt-3">
      <Button onClick={onAdd}>{label}</Button>
    </p>
  );
}

function Rotors({ rows, currency, onPart }: TableProps<Schemas["CatalogueRotorOut"]>) {
  const units = useUnits();
  return (
    <>
      <Table
        label="Rotors"
        width="min-w-220"
        heads={[
          "Rotor",
          "Mount",
          "Source",
          "Material, face",
          right(`Diameter, ${units.symbol("diameter")}`),
          right(`Thickness / discard, ${units.symbol("reading")}`),
          right("Vanes"),
          right(`Mass, ${units.symbol("mass")}`),
          right(`One, ${currency}`),
        ]}
      >
        <tbody>
          {rows.map((row) => (
            <Row key={row.id}>
              <Cell>
                <Name name={row.name} onOpen={() => onPart(rotor(row))} />
              </Cell>
              <Cell>{row.mount}</Cell>
              <Cell>{row.provenance}</Cell>
              <Cell>
                {row.material.replaceAll("_", " ")}, {row.pattern.replaceAll("_", " and ")}
                {row.two_piece && ", two-piece"}
                {row.coating !== "none" && `, ${row.coating}`}
              </Cell>
              <Cell figures>{units.figure(row.outer_radius_m, "diameter")}</Cell>
              <Cell figures>
                {units.figure(row.thickness_m, "reading")} /{" "}
                {units.figure(row.discard_thickness_m, "reading")}
              </Cell>
              <Cell figures>
                {row.gap_m > 0 ? row.vanes : "solid"}
                {row.vane_shape === "directional" && (
                  <span className="condensed block font-sans text-xs text-muted">
                    directional: left and right
                  </span>
                )}
              </Cell>
              <Cell figures>{row.mass_kg === null ? "–" : units.figure(row.mass_kg, "mass", 1)}</Cell>
              <Cell figures>{row.price}</Cell>
            </Row>
          ))}
        </tbody>
      </Table>

      <Add label="Add a rotor" onAdd={() => onPart(fresh("rotors"))} />
      <Out table="rotors" label="Rotors" />
    </>
  );
}

function Fluids({ rows, currency, onPart }: TableProps<Schemas["CatalogueFluidOut"]>) {
  const units = useUnits();
  return (
    <>
      <Table
        label="Fluids"
        width="max-w-3xl"
        heads={[
          "Fluid",
          "Standard",
          "Source",
          right(`Boils dry, ${units.symbol("temperature")}`),
          right("Boils wet"),
          right(`A litre, ${currency}`),
        ]}
      >
        <tbody>
          {rows.map((row) => (
            <Row key={row.id}>
              <Cell>
                <Name name={row.name} onOpen={() => onPart(plain("fluids", row))} />
              </Cell>
              <Cell>{row.standard}</Cell>
              <Cell>{row.provenance}</Cell>
              <Cell figures>{units.figure(row.dry_C, "temperature")}</Cell>
              <Cell figures>{units.figure(row.wet_C, "temperature")}</Cell>
              <Cell figures>{row.price}</Cell>
            </Row>
          ))}
        </tbody>
      </Table>
      <Add label="Add a fluid" onAdd={() => onPart(fresh("fluids"))} />
      <Out table="fluids" label="Fluids" />
    </>
  );
}
