import { problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { Failure, GroupTitle, type State, StateWord } from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { type AxleFit, type Fit, useCountBox } from "./queries";

type Line = Schemas["LineOut"];
type Props = { machineId: number; fit: Fit; axle: AxleFit };

const states: Record<Line["verdict"], State> = {
  there: "fine",
  look: "close",
  order: "close",
  swap: "over",
  "send back": "over",
  stop: "over",
};

/** What the axle needs against what is in the boxes. */
export function Boxes({ machineId, fit, axle }: Props) {
  const { system, say } = useUnits();
  const count = useCountBox(machineId);
  if (axle.is_on) return null;
  const keep = (name: string, value: number | string | null, seen: number | string | null) =>
    count.mutate({ axle: axle.axle, items: { [name]: value }, seen: { [name]: seen } });
  const wanted = axle.lines
    .filter((line) => line.verdict === "order")
    .map((line) => line.label.toLowerCase());
  return (
    <section aria-label="In the boxes" className="mt-6">
      <GroupTitle>In the boxes</GroupTitle>
      {!fit.said && <p className="text-muted">Say what is to go on first: its boxes are what is counted.</p>}
      <ul data-boxes className="grid grid-cols-1 gap-x-8 bay:grid-cols-1! sm:grid-cols-2">
        {axle.lines.map((line) => {
          const words = line.choices.length > 0;
          const seen = line.counted ? (words ? line.word : line.have) : null;
          return (
            <li key={line.name} data-item={line.name} className="border-t border-hairline py-1.5">
              <div className="flex items-end justify-between gap-3">
                <p className="min-w-0">
                  {line.label}
                  {!words && (
                    <span className="condensed block text-xs text-muted">
                      {line.quantity === "fluidVolume"
                        ? `needs ${say({ template: "{v:fluidVolume}", values: { v: line.need } })}`
                        : `needs ${line.need}`}
                      {!line.counted && line.have > 0 && ", by the catalogue"}
                    </span>
                  )}
                </p>
                {words ? (
                  <SelectField
                    label={line.label}
                    bare
                    value={line.word}
                    options={[["", "not looked"], ...line.choices.map((word) => [word, word] as const)]}
                    onChange={(word) => keep(line.name, word || null, seen)}
                  />
                ) : (
                  <span className="w-20 shrink-0">
                    <NumberField
                      label={`${line.label}, in the boxes`}
                      path={`items.${line.name}`}
                      quantity={line.quantity}
                      system={system}
                      bare
                      nullable
                      placeholder={line.have > 0 && line.quantity === "count" ? String(line.have) : "0"}
                      value={line.counted ? line.have : null}
                      onCommit={(value) => keep(line.name, value, seen)}
                    />
                  </span>
                )}
              </div>
              <p className="condensed">
                <StateWord state={states[line.verdict]}>{line.verdict}</StateWord>
                <span className="text-muted">: {say(line.text)}</span>
                {line.check && line.verdict !== "there" && (
                  <span className="block text-muted">Check: {line.check}.</span>
                )}
              </p>
              {line.name === "sensors" && <Sensors axle={axle} keep={keep} />}
            </li>
          );
        })}
      </ul>
      {wanted.length > 0 && (
        <p className="mt-2 border-t border-ink pt-2">
          <span className="font-semibold">To order:</span> {wanted.join(", ")}.
        </p>
      )}
      {count.error && <Failure text={problemText(count.error)} />}
    </section>
  );
}

type SensorProps = { axle: AxleFit; keep: (name: string, value: string | null, seen: string | null) => void };

/** What is known of the sensor of each corner that has one. */
function Sensors({ axle, keep }: SensorProps) {
  return (
    <div className="mt-1 flex flex-wrap gap-3">
      {axle.sensors.map(({ side, state }) => (
        <SelectField
          key={side}
          label={`Sensor, ${side}`}
          value={state}
          options={[
            ["", "not looked"],
            ["whole", "whole"],
            ["cut", "cut in"],
          ]}
          onChange={(word) => keep(`sensor.${side}`, word || null, state || null)}
        />
      ))}
    </div>
  );
}
