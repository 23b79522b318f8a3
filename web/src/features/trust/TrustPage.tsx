import { Caution, GroupTitle, StageTitle } from "../../ui/basics";
import { Cell, Row, Table } from "../../ui/Table";

/** What each kind of number is held to. */
const verified: [string, string][] = [
  ["Torque, pressure, pedal force, axle loads, balance", "worked by hand, to 0.1 %"],
  [
    "Ring, pad and fluid temperatures",
    "closed forms (half-space, slab, hours of drag as a network of resistances, effusivity split) to 0.5 %; six whole cases of an independent solver on a fine grid to 1 % of the rise",
  ],
  ["Energy", "what goes in is stored or lost, to a millionth, on every run"],
  [
    "Stops held back by tyres, pedal, motor or trailer",
    "closed forms of the deceleration; the same six cases",
  ],
  ["Steps and cells", "all halved, no peak moves by half a kelvin"],
  ["Ranges", "8 of 10 made-up truths fall inside them, for ring, fluid and wear (76 to 86 %)"],
];

/** What is not known well, how much hangs on it, and what on one's own vehicle would settle it. */
const settle: [string, string, string][] = [
  [
    "How well rings are cooled",
    "± 20 %: the hottest ring",
    "a pyrometer on the ring at known minutes after the last braking, or temperature paint at its edge (Duty)",
  ],
  [
    "Heat from backing plates to caliper",
    "± 40 %: the fluid, most of all on long drags and worn pads",
    "a temperature strip on each caliper by the pistons, worn for one hard day; or a pyrometer on it while parked (Duty)",
  ],
  ["Caliper mass and outside", "± 20 %: the fluid", "weigh it off the vehicle; tape over its outside"],
  [
    "Friction of a compound when hot",
    "± 8 %: pedal force, first to lock",
    "a braking with pedal force, deceleration and ring temperature read (Catalogue, own friction)",
  ],
  [
    "Wear of a compound",
    "a third to half as much again: the change",
    "one measurement of the pads after a known distance (Life)",
  ],
  [
    "Boiling point of the fluid",
    "2 % water a year is a guess: a humid garage doubles it",
    "a boiling-point tester, or a test strip; a change where neither is at hand",
  ],
  [
    "Grip, height of the CG",
    "± 10 %: what the tyres allow, lock-up",
    "best steady braking from a logger; scales with the rear lifted (Machine)",
  ],
  ["Discard thickness", "an estimate until read", "read it: cast in the hat or on the edge"],
];

const not = [
  "Hot spots, coning, one pad or one side hotter than the other: the ring is one temperature around, both calipers of an axle are alike.",
  "Friction that hangs on speed, pressure or a bed of another compound; green fade of pads that were never bedded.",
  "Fluid that boils first at one piston or in a line by the exhaust: it is taken to be as hot as the caliper.",
  "Drag of a seized piston or pin: look at the wheels (Inspect).",
  "Cracks: stress is an index, it clears no rotor.",
];

/** How far to trust it: what is checked against what, what is not, and which measurement settles it. */
export function TrustPage() {
  return (
    <div className="max-w-4xl">
      <StageTitle
        title="How far to trust it"
        note="Right arithmetic on estimates is still an estimate. This page says which is which."
      />
      <section aria-label="Verified" className="mt-4">
        <GroupTitle>Verified: the model is computed as it is written</GroupTitle>
        <Table label="What is verified, and against what" heads={["What", "Against"]}>
          <tbody>
            {verified.map(([what, against]) => (
              <Row key={what}>
                <Cell className="font-semibold">{what}</Cell>
                <Cell>{against}</Cell>
              </Row>
            ))}
          </tbody>
        </Table>
      </section>
      <section aria-label="Validated" className="mt-6">
        <GroupTitle>Validated: the model against real vehicles</GroupTitle>
        <p className="max-w-prose">
          Nothing yet. No measured vehicle with every number known stands behind it, and we do not quote one
          we cannot show. Its formulas are published ones (each number, opened, names its source); its
          estimates are marked. Until it has met your readings, take the ranges for what they are.
        </p>
      </section>
      <section aria-label="What would settle it" className="mt-6">
        <GroupTitle>What is guessed, and what would settle it on your vehicle</GroupTitle>
        <Table
          label="Guesses and measurements"
          heads={["Guess", "How far off, and what hangs on it", "Measure"]}
        >
          <tbody>
            {settle.map(([guess, far, measure]) => (
              <Row key={guess}>
                <Cell className="font-semibold">{guess}</Cell>
                <Cell>{far}</Cell>
                <Cell>{measure}</Cell>
              </Row>
            ))}
          </tbody>
        </Table>
      </section>
      <section aria-label="Left out" className="mt-6">
        <GroupTitle>Left out of the model</GroupTitle>
        <ul className="list-disc pl-5">
          {not.map((line) => (
            <li key={line} className="mb-1 max-w-prose">
              {line}
            </li>
          ))}
        </ul>
      </section>
      <Caution>
        A wrong number does harm on one side only. Where the doubt reaches a limit (fluid, grip, rotor, pads),
        act as if it were reached: the vehicle's manual, local law and a qualified technician come first.
      </Caution>
    </div>
  );
}
