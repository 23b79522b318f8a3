import type { Quantity } from "../../lib/units";

type Values = Record<string, number | null>;

export type Input = {
  name: string;
  label: string;
  quantity: Quantity;
  optional?: boolean;
  /** What the machine says of it already, to start from. */
  start?: (values: Values) => number | null;
};

export type Method = { name: string; title: string; how: string[]; inputs: Input[] };

const from = (path: string) => (values: Values) => values[path] ?? null;

export const methods = {
  corner_scales: {
    name: "corner_scales",
    title: "Mass and weight split by scales",
    how: [
      "Four scales on level ground, or a weighbridge one axle at a time.",
      "Driver in the seat (or ballast), half a tank, what you carry.",
      "Roll on, let the springs settle, read all four.",
    ],
    inputs: [
      { name: "front_left_kg", label: "Front left", quantity: "mass" },
      { name: "front_right_kg", label: "Front right", quantity: "mass" },
      { name: "rear_left_kg", label: "Rear left", quantity: "mass" },
      { name: "rear_right_kg", label: "Rear right", quantity: "mass" },
    ],
  },
  lifted_axle: {
    name: "lifted_axle",
    title: "Height of the CG by lifting the rear",
    how: [
      "Weigh the front axle level: that is the first reading. Block the suspension so that it cannot move.",
      "Lift the rear wheels on to something solid, at least a fifth of the wheelbase, chocked, nobody under it.",
      "Weigh the front axle again and measure how far the rear hubs rose.",
    ],
    inputs: [
      { name: "mass_kg", label: "Mass in all", quantity: "mass", start: from("vehicle.mass_kg") },
      {
        name: "level_kg",
        label: "Front axle, level",
        quantity: "mass",
        start: (values) => {
          const [mass, share] = [values["vehicle.mass_kg"], values["vehicle.front_fraction"]];
          return mass != null && share != null ? mass * share : null;
        },
      },
      { name: "lifted_kg", label: "Front axle, rear lifted", quantity: "mass" },
      { name: "lift_m", label: "Rear hubs rose by", quantity: "length" },
      { name: "wheelbase_m", label: "Wheelbase", quantity: "length", start: from("vehicle.wheelbase_m") },
      {
        name: "wheel_radius_m",
        label: "Hub height, level",
        quantity: "length",
        start: from("vehicle.wheel_radius_front_m"),
      },
    ],
  },
  roll_out: {
    name: "roll_out",
    title: "Tyre radius by rolling",
    how: [
      "Tyres at driving pressure, vehicle loaded as driven. Chalk a mark on tyre and ground.",
      "Roll straight for three turns of the wheel, until the mark is down again.",
      "Measure between the marks on the ground.",
    ],
    inputs: [
      { name: "distance_m", label: "Rolled", quantity: "length" },
      { name: "turns", label: "Turns", quantity: "count", start: () => 3 },
    ],
  },
  pedal_lever: {
    name: "pedal_lever",
    title: "Pedal ratio with a ruler",
    how: [
      "Find the pedal's pivot, at its upper end on most cars.",
      "Measure from the pivot straight to the middle of the pad your foot presses.",
      "Measure from the pivot to the pin of the pushrod.",
    ],
    inputs: [
      { name: "foot_m", label: "Pivot to foot", quantity: "bore" },
      { name: "rod_m", label: "Pivot to pushrod", quantity: "bore" },
    ],
  },
  weighed_rotor: {
    name: "weighed_rotor",
    title: "Air gap by weighing the rotor",
    how: [
      "Weigh yourself with the rotor in your arms and without it, or put it on a kitchen scale.",
      "One piece: leave the hat open, about a fifth of the mass is taken off for it. Two pieces: weigh the hat too.",
      "Diameters, thickness and vanes are those of the rotor on the machine; grey iron is assumed.",
    ],
    inputs: [
      { name: "mass_kg", label: "Rotor, whole", quantity: "mass" },
      { name: "hat_kg", label: "Hat alone", quantity: "mass", optional: true },
      { name: "outer_radius_m", label: "Rotor diameter", quantity: "diameter" },
      { name: "inner_radius_m", label: "Band starts at", quantity: "diameter" },
      { name: "thickness_m", label: "Rotor thickness", quantity: "thickness" },
      { name: "vanes", label: "Vanes", quantity: "count" },
      { name: "vane_thickness_m", label: "Vane thickness", quantity: "thickness" },
    ],
  },
  pistons: {
    name: "pistons",
    title: "Piston area with a caliper gauge",
    how: [
      "Pads out, pistons a little proud. Eye protection; fluid eats paint and skin.",
      "Sliding caliper: measure every piston. Opposed caliper: those of one side only.",
      "Measure across the piston, not its boot.",
    ],
    inputs: [
      { name: "first_m", label: "First piston", quantity: "bore" },
      { name: "second_m", label: "Second piston", quantity: "bore", optional: true },
      { name: "third_m", label: "Third piston", quantity: "bore", optional: true },
    ],
  },
} satisfies Record<string, Method>;

/** The method that finds a field, and the field each of its values goes to. */
export function methodOf(path: string): { method: Method; goesTo: Record<string, string> } | null {
  switch (path) {
    case "vehicle.mass_kg":
    case "vehicle.front_fraction":
      return {
        method: methods.corner_scales,
        goesTo: { mass_kg: "vehicle.mass_kg", front_fraction: "vehicle.front_fraction" },
      };
    case "vehicle.cg_height_m":
      return { method: methods.lifted_axle, goesTo: { cg_height_m: path } };
    case "vehicle.wheel_radius_front_m":
    case "vehicle.wheel_radius_rear_m":
      return { method: methods.roll_out, goesTo: { wheel_radius_m: path } };
    case "hydraulics.pedal_ratio":
      return { method: methods.pedal_lever, goesTo: { pedal_ratio: path } };
    case "front.rotor.gap_m":
    case "rear.rotor.gap_m":
      return { method: onSide(methods.weighed_rotor, path), goesTo: { gap_m: path } };
    case "front.piston_area_m2":
    case "rear.piston_area_m2":
      return { method: methods.pistons, goesTo: { piston_area_m2: path } };
    default:
      return null;
  }
}

/** The method with its rotor numbers started from the rotor of the field's own axle. */
function onSide(method: Method, path: string): Method {
  const side = path.split(".")[0];
  const known = new Set(["outer_radius_m", "inner_radius_m", "thickness_m", "vanes", "vane_thickness_m"]);
  return {
    ...method,
    inputs: method.inputs.map((input) =>
      known.has(input.name) ? { ...input, start: from(`${side}.rotor.${input.name}`) } : input,
    ),
  };
}

/** What the server is asked: null as long as something needed is missing. */
export function numbersOf(method: Method, typed: Values): Values | null {
  const numbers: Values = {};
  for (const { name, optional } of method.inputs) {
    const value = typed[name] ?? null;
    if (value === null && !optional) return null;
    if (value !== null) numbers[name] = value;
  }
  return numbers;
}
