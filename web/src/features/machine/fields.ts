import type { Quantity } from "../../lib/units";

export type Field = {
  path: string;
  label: string;
  quantity: Quantity;
  how: string;
  /** "None" is an answer of its own: no booster, no valve. */
  nullable?: boolean;
  /** Seldom known: shown on demand. */
  more?: boolean;
  /** The size on a tyre's wall says it too. */
  tyre?: boolean;
};

type Extra = "nullable" | "more" | "tyre";
const f = (path: string, label: string, quantity: Quantity, how: string, ...extra: Extra[]): Field => ({
  path,
  label,
  quantity,
  how,
  nullable: extra.includes("nullable"),
  more: extra.includes("more"),
  tyre: extra.includes("tyre"),
});

// What decides whether parts go on: Fit asks for most of them where they are missing.
const fits: [name: string, label: string, quantity: Quantity, how: string][] = [
  ["opening_m", "Caliper opening", "bore", "pistons home, no pads: piston face to abutment"],
  ["piston_depth_m", "Piston in its bore, home", "bore", "its length less what stands out"],
  ["seal_hold_m", "Stays behind the seal", "bore", "6 mm unless the maker says other"],
  ["running_clearance_m", "Running clearance", "bore", "feeler gauges, both sides together"],
  ["hat_height_m", "Hat height", "bore", "depth gauge across the hat"],
  ["hub_bore_m", "Hub spigot", "bore", "caliper gauge"],
  ["stud_holes", "Wheel bolt holes", "count", "count them"],
  ["pitch_circle_m", "Pitch circle", "bore", "hole to the opposite hole"],
  ["fixing_screws", "Fixing screws", "count", "count the holes in the hub"],
  ["drum_m", "Drum inside the hat", "bore", "caliper gauge across it"],
  ["bracket_radius_m", "Hub's centre to bracket", "bore", "ruler to the nearest metal"],
  ["spoke_room_m", "Spokes to the caliper", "bore", "clay, wheel turned by hand"],
  ["pad_height_m", "Pad height", "bore", "friction face, hub outwards"],
  ["abutment_m", "Between the abutments", "bore", "caliper gauge, clips in place"],
  ["pin_hole_m", "Pad pins", "bore", "caliper gauge across a pin"],
  ["pin_spacing_m", "Pin to pin", "bore", "outside of both, less one"],
];

const axle = (side: "front" | "rear"): Field[] => [
  f(`${side}.rotor.outer_radius_m`, "Rotor diameter", "diameter", "tape across the rotor"),
  f(`${side}.rotor.thickness_m`, "Rotor thickness", "thickness", "caliper gauge over two washers, less them"),
  f(`${side}.rotor.discard_thickness_m`, "Discard thickness", "thickness", "cast in the hat or on the edge"),
  f(`${side}.piston_area_m2`, "Piston area, one pad", "area", "caliper gauge across the pistons of one pad"),
  f(
    `${side}.cooling_factor`,
    "Cooling factor",
    "ratio",
    "1 is an open road car; ducts about 1.5, covered wheels 0.8",
  ),
  f(
    `${side}.rotor.inner_radius_m`,
    "Band starts at",
    "diameter",
    "diameter where the pad's track begins",
    "more",
  ),
  f(`${side}.rotor.gap_m`, "Air gap", "thickness", "between the cheeks; 0 is solid", "more"),
  f(`${side}.rotor.vanes`, "Vanes", "count", "count a quarter, times four", "more"),
  f(`${side}.rotor.vane_thickness_m`, "Vane thickness", "thickness", "gauge at the edge", "more"),
  f(
    `${side}.rotor.hub_conductance_W_per_K`,
    "Rotor to hub",
    "conductance",
    "3 one-piece, 1 two-piece or floating",
    "more",
  ),
  f(`${side}.pad.area_m2`, "Pad area", "area", "trace the pad on squared paper", "more"),
  f(`${side}.pad.thickness_m`, "New pad, friction", "thickness", "new pad less its backing", "more"),
  f(`${side}.pad.backing_m`, "Backing plate", "thickness", "gauge", "more"),
  f(`${side}.caliper_mass_kg`, "Caliper mass", "mass", "bathroom scale, hose clamped off", "more"),
  f(
    `${side}.caliper_specific_heat_J_per_kgK`,
    "Caliper heat capacity",
    "heatCapacity",
    "500 iron, 900 aluminium",
    "more",
  ),
  f(`${side}.caliper_area_m2`, "Caliper surface", "area", "box around it, about", "more"),
  f(
    `${side}.backing_conductance_W_per_K`,
    "Backing to caliper",
    "conductance",
    "6 plain; lower with insulating shims or titanium pistons",
    "more",
  ),
  f(
    `${side}.gap_conductance_W_per_K`,
    "Across the pad gap",
    "conductance",
    "0.5 with the usual gap of a released pad",
    "more",
  ),
  f(
    `${side}.caliper_efficiency`,
    "Caliper efficiency",
    "percent",
    "98 % free pins and seals; less when they stick",
    "more",
  ),
  f(`${side}.rotors`, "Rotors on it", "count", "one a wheel; motorcycles one or two", "more"),
  f(
    `${side}.rim_radius_m`,
    "Wheel, inside",
    "diameter",
    "tape inside the barrel, at the caliper",
    "nullable",
    "more",
  ),
  f(
    `${side}.caliper_reach_m`,
    "Caliper beyond rotor",
    "thickness",
    "ruler: rotor's edge to caliper's outside",
    "nullable",
    "more",
  ),
  ...fits.map(([name, label, quantity, how]) =>
    f(`${side}.${name}`, label, quantity, how, "nullable", "more"),
  ),
];

export type Group = { title: string; fields: Field[] };

/** Every number of the case, grouped as a person thinks. */
export const groups: Group[] = [
  {
    title: "Weight and size",
    fields: [
      f("vehicle.mass_kg", "Mass as driven", "mass", "weighbridge or corner scales, driver and half a tank"),
      f("vehicle.front_fraction", "Weight on the front", "percent", "front axle's reading over the total"),
      f("vehicle.wheelbase_m", "Wheelbase", "length", "tape, hub centre to hub centre"),
      f("vehicle.cg_height_m", "Height of the CG", "length", "weigh the front with the rear lifted"),
      f(
        "vehicle.rotating_mass_factor",
        "Turning parts add",
        "ratio",
        "1.03 to 1.10: wheels, engine in gear",
        "more",
      ),
      f(
        "vehicle.rider_front_share",
        "Braking by the front lever",
        "percent",
        "the rider's own habit; empty for one pedal",
        "nullable",
        "more",
      ),
    ],
  },
  {
    title: "Pedal to calipers",
    fields: [
      f("hydraulics.pedal_ratio", "Pedal ratio", "ratio", "ruler: pivot to foot over pivot to pushrod"),
      f("hydraulics.booster_gain", "Booster gain", "ratio", "1 without one; makers quote 4 to 6"),
      f(
        "hydraulics.booster_runout_N",
        "Booster runs out at",
        "force",
        "pushrod force where it gets hard; empty for none",
        "nullable",
      ),
      f("hydraulics.master_bore_m", "Master cylinder bore", "bore", "cast into the body"),
      f("hydraulics.max_pedal_force_N", "Most you press", "force", "bathroom scale under the foot"),
      f(
        "hydraulics.rear_knee_Pa",
        "Rear valve knee",
        "pressure",
        "two gauges; empty without a valve",
        "nullable",
      ),
      f("hydraulics.rear_slope", "Rear valve slope", "ratio", "rear over front rise above the knee"),
      f("hydraulics.pedal_efficiency", "Pedal efficiency", "percent", "92 % in good order", "more"),
    ],
  },
  { title: "Front axle", fields: axle("front") },
  { title: "Rear axle", fields: axle("rear") },
  {
    title: "Tyres",
    fields: [
      f("vehicle.wheel_radius_front_m", "Tyre radius, front", "length", "or its size, as 195/50 R15", "tyre"),
      f("vehicle.wheel_radius_rear_m", "Tyre radius, rear", "length", "or its size, as 195/50 R15", "tyre"),
      f("vehicle.tyre_grip", "Tyre grip, dry", "ratio", "best steady braking in g from a logger"),
      f("vehicle.rolling_coefficient", "Rolling resistance", "grade", "1.0 to 1.5 % on asphalt", "more"),
    ],
  },
  {
    title: "Drive and air",
    fields: [
      f("powertrain.power_W", "Power", "power", "papers, at the wheels about 0.85 of it"),
      f("powertrain.top_speed_mps", "Top speed", "speed", "papers, or the speed you never pass"),
      f("vehicle.engine_braking_N", "Engine braking", "force", "roll on the flat, foot off: mass × slowing"),
      f("vehicle.drag_area_m2", "Drag area", "dragArea", "height × width × 0.3 to 0.4"),
      f("vehicle.front_lift_area_m2", "Lift area, front", "dragArea", "below 0 presses down", "more"),
      f("vehicle.rear_lift_area_m2", "Lift area, rear", "dragArea", "below 0 presses down", "more"),
      f("regen.max_power_W", "Motor brakes with", "power", "papers, or the scan tool's greatest"),
      f("regen.max_decel_mps2", "Motor slows at most", "decel", "foot off at low speed, by logger"),
      f("regen.fade_out_mps", "Motor lets go below", "speed", "where it fades to the brakes", "more"),
    ],
  },
  {
    title: "Trailer",
    fields: [
      f("trailer.mass_kg", "Trailer mass", "mass", "weighbridge, loaded"),
      f("trailer.brake_share", "Braked by itself", "percent", "0 unbraked, 50 to 70 % overrun"),
      f("trailer.nose_load_N", "Nose load", "force", "bathroom scale under the coupling"),
      f("trailer.hitch_height_m", "Coupling over the road", "length", "tape, loaded and hitched", "more"),
      f("trailer.hitch_overhang_m", "Coupling behind the rear axle", "length", "tape, hub to ball", "more"),
    ],
  },
  {
    title: "Air, fluid, log",
    fields: [
      f("environment.air_C", "Air temperature", "temperature", "thermometer in the shade, on the day"),
      f("environment.altitude_m", "Altitude", "altitude", "map"),
      f("fluid.fluid_age_months", "Fluid age", "months", "since it was last changed"),
      f("log.odometer_km", "Odometer", "distance", "read it off"),
    ],
  },
];

export const allFields = groups.flatMap((group) => group.fields);

export function fieldOf(path: string): Field | undefined {
  return allFields.find((field) => field.path === path);
}

/** A number of a rotor or pad, which is kept with the fitted parts and not with the machine. */
export function isPart(path: string): boolean {
  return /^(front|rear)\.(rotor|pad)\./.test(path);
}
