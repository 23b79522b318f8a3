import { problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { counted } from "../../lib/text";
import { Failure } from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { useFits, useSayFits } from "./queries";

type Axle = Schemas["FitsOut"];

type Props = { machineId: number; nonePasses: boolean };

/** Why a machine of one's own is offered few parts, and the place to say what it takes; open where nothing passes. */
export function FewOffered({ machineId, nonePasses }: Props) {
  const fits = useFits(machineId);
  const say = useSayFits(machineId);
  const units = useUnits();
  if (!fits.data) return null;
  const { axles, shapes, mounts } = fits.data;
  const few = axles.filter((axle) => axle.why.length > 0);
  const bare = few.filter((axle) => axle.rotors === 0).map((axle) => axle.axle);
  const set = (axle: Axle, name: "pad_shape" | "rotor_mount") => (value: string) =>
    say.mutate({ axle: axle.axle === "rear" ? "rear" : "front", name, value });
  const options = (rows: Schemas["FitChoiceOut"][], now: string) => [
    ["", "not known"] as const,
    ...(now && !rows.some((row) => row.name === now) ? [[now, now] as const] : []),
    ...rows.map((row) => [row.name, `${row.name}: ${units.say(row.example)}`] as const),
  ];
  return (
    <details
      className={`mb-4 max-w-3xl ${few.length > 0 ? "border-l-2 border-close-fill pl-3" : "condensed text-muted"}`}
      open={nonePasses && bare.length > 0}
    >
      <summary className={`cursor-pointer ${few.length > 0 ? "font-semibold" : ""}`}>
        {few.length > 0
          ? `Why so few parts are offered${bare.length > 0 ? `: no rotor of the catalogue for the ${bare.join(" and the ")}` : ""}`
          : `Offered by shape and mount: ${axles.map((axle) => `${axle.axle} ${counted(axle.compounds, "compound")}, ${counted(axle.rotors, "rotor")}`).join("; ")}`}
      </summary>
      {axles.map((axle) => (
        <fieldset key={axle.axle} className="mt-2" data-fits={axle.axle}>
          <legend className="sr-only">{axle.axle} axle</legend>
          {axle.why.map((text) => (
            <p key={text.template} className="max-w-prose">
              ◐ {units.say(text)}
            </p>
          ))}
          <div className="mt-1 grid gap-3 sm:grid-cols-2">
            <SelectField
              label={`Pad shape, ${axle.axle}`}
              value={axle.pad_shape}
              options={options(shapes, axle.pad_shape)}
              onChange={set(axle, "pad_shape")}
            />
            <SelectField
              label={`Rotor mount, ${axle.axle}: a rotor that fits`}
              value={axle.rotor_mount}
              options={options(mounts, axle.rotor_mount)}
              onChange={set(axle, "rotor_mount")}
            />
          </div>
        </fieldset>
      ))}
      <p className="condensed mt-1 text-xs text-muted">
        Offer the old part to the new one before anything is ordered: shape and mount are names, a caliper is
        steel.
      </p>
      {(say.error || fits.error) && <Failure text={problemText(say.error ?? fits.error)} />}
    </details>
  );
}
