import type { Quantity } from "../../lib/units";

export type Field = { path: string; label: string; quantity: Quantity; how: string; nullable?: boolean };

const f = (path: string, label: string, quantity: Quantity, how: string, nullable = false): Field => ({
  path,
  label,
  quantity,
  how,
  nullable,
});

const axle = (side: "front" | "rear"): Field[] => [
  f(
    `${side}.piston_area_m2`,
    "Piston area, one pad",
    "area",
    "caliper gauge across the pistons that press one pad",
  ),
  f(`${side}.caliper_mass_kg`, "Caliper mass", "mass", "bathroom scale, hose clamped off"),
  f(
    `${side}.cooling_factor`,
    "Cooling factor",
    "ratio",
    "1 is an open road car; ducts about 1.5, covered wheels 0.8",
  ),
  f(
    `${side}.backing_conductance_W_per_K`,
    "Backing to caliper",
    "conductance",
    "6 plain; lower with insulating shims or titanium pistons",
  ),
];

/** The numbers that matter, grouped as a person thinks; the rest of the case keeps its stored values. */
export const groups: { title: string; fields: Field[] }[] = [
  {
    title: "Weight and size",
    fields: [
      f(
        "vehicle.mass_kg",
        "Mass as driven",
        "mass",
        "weighbridge or corner scales, with driver and half a tank",
      ),
      f(
        "vehicle.front_fraction",
        "Weight on the front",
        "percent",
        "front axle's reading over the total, car level",
      ),
      f("vehicle.wheelbase_m", "Wheelbase", "length", "tape, hub centre to hub centre"),
      f(
        "vehicle.cg_height_m",
        "Height of the CG",
        "length",
        "weigh the front with the rear lifted 0.5 m, suspension blocked",
      ),
      f("vehicle.wheel_radius_front_m", "Tyre radius, front", "length", "roll out one turn, divide by 6.28"),
      f("vehicle.wheel_radius_rear_m", "Tyre radius, rear", "length", "roll out one turn, divide by 6.28"),
      f("vehicle.drag_area_m2", "Drag area", "dragArea", "height × width × 0.3 to 0.4"),
      f("vehicle.tyre_grip", "Tyre grip, dry", "ratio", "best steady braking in g from a logger"),
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
        true,
      ),
      f("hydraulics.master_bore_m", "Master cylinder bore", "bore", "cast into the body"),
      f(
        "hydraulics.max_pedal_force_N",
        "Most you press",
        "force",
        "bathroom scale under the foot, engine running",
      ),
      f(
        "hydraulics.rear_knee_Pa",
        "Rear valve knee",
        "pressure",
        "two pressure gauges; empty without a valve",
        true,
      ),
      f("hydraulics.rear_slope", "Rear valve slope", "ratio", "rear over front rise above the knee"),
    ],
  },
  { title: "Front axle", fields: axle("front") },
  { title: "Rear axle", fields: axle("rear") },
  {
    title: "Trailer",
    fields: [
      f("trailer.mass_kg", "Trailer mass", "mass", "weighbridge, loaded"),
      f("trailer.brake_share", "Braked by itself", "percent", "0 unbraked, 50 to 70 % overrun"),
      f("trailer.nose_load_N", "Nose load", "force", "bathroom scale under the coupling"),
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
