import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { Button, Caution, Failure, GroupTitle, type State, StateWord } from "../../ui/basics";
import { SteelRule } from "../../ui/SteelRule";
import { Cell, Row, right, Table, unseen } from "../../ui/Table";
import { useSession } from "../session/queries";
import { Why } from "../verdict";
import type { Candidate } from "./candidates";
import { changeText, stateOf } from "./fluidWords";
import { useFill, useFluidChoices } from "./queries";

type Props = {
  machineId: number;
  candidate: Candidate | null;
  mixed: boolean;
  /** The list is being judged again: the candidate may be offered no more. */
  moving?: boolean;
};

/** Which fluid bears the hot soak of the chosen set, at which age it has to go, and what that costs. */
export function Fluids({ machineId, candidate, mixed, moving = false }: Props) {
  const units = useUnits();
  const currency = useSession().data?.currency ?? "";
  const found = useFluidChoices(machineId, candidate?.key ?? null, mixed);
  const fill = useFill(machineId);
  if (found.error && !moving)
    return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  if (!found.data) return null;
  const { peak_C, age_months, fluids } = found.data;
  const degrees = (value: number) => units.figure(value, "temperature");
  const margin = units.withUnit(50, "temperatureChange");
  const kelvin = (value: number) => units.withUnit(value, "temperatureChange");
  const top = Math.max(peak_C, ...fluids.map((fluid) => fluid.dry_C)) * 1.05;
  return (
    <section
      id="fluids"
      aria-label="Fluid"
      className="mt-6 border-t border-ink pt-3"
      aria-busy={found.isFetching}
    >
      <GroupTitle>Fluid for this duty</GroupTitle>
      <p className="mb-2">
        With {candidate?.pads ?? "the fitted set"} the fluid gets to{" "}
        <span className="figures font-semibold">
          <Why topic="worn_margin" {...(candidate ? { of: candidate.key, mixed } : {})}>
            {units.withUnit(peak_C, "temperature")}
          </Why>
        </span>
        , the hot soak included, with the pads as thin as when they are changed.
      </p>

      <Table
        width="min-w-140"
        heads={[
          "Fluid",
          { text: `wet to dry, against the peak, ${units.symbol("temperature")}`, className: "w-36" },
          right("left fresh"),
          right("left wet"),
          "Change it",
          right(`${currency} a year`),
          unseen("What to do"),
        ]}
      >
        <tbody>
          {fluids.map((fluid) => {
            const state: State = stateOf(fluid);
            return (
              <Row key={fluid.id} data-fluid={fluid.name}>
                <Cell>
                  <span className="font-semibold">{fluid.name}</span>
                  <span className="condensed block text-xs text-muted">
                    {fluid.standard}
                    {fluid.in_machine && `, in it, ${age_months.toFixed(0)} months old`}
                  </span>
                </Cell>
                <Cell>
                  <span className="figures text-xs">
                    {degrees(fluid.wet_C)} – {degrees(fluid.dry_C)}
                  </span>
                  <SteelRule
                    fill={peak_C / top}
                    notch={fluid.dry_C / top}
                    state={state}
                    band={[fluid.wet_C / top, fluid.dry_C / top]}
                  />
                </Cell>
                <Cell figures>{kelvin(fluid.fresh_K)}</Cell>
                <Cell figures>{kelvin(fluid.wet_K)}</Cell>
                <Cell>
                  <StateWord state={state}>{changeText(fluid, margin)}</StateWord>
                </Cell>
                <Cell figures>{fluid.price_per_year === null ? "–" : fluid.price_per_year.toFixed(2)}</Cell>
                <Cell className="text-right">
                  <Button
                    small
                    className="whitespace-nowrap"
                    disabled={fill.isPending}
                    onClick={() => fill.mutate({ fluid_id: fluid.id, age_months: 0 })}
                  >
                    {fluid.in_machine ? "Changed today" : "Filled today"}
                    <span className="sr-only">: {fluid.name}</span>
                  </Button>
                </Cell>
              </Row>
            );
          })}
        </tbody>
      </Table>

      {fill.error && <Failure text={problemText(fill.error)} />}
      {fill.data && (
        <p className="mt-2" role="note">
          {fill.data.name} is in, {fill.data.age_months.toFixed(0)} months old.{" "}
          {(fill.data.before_id !== fill.data.fluid_id ||
            fill.data.before_months !== fill.data.age_months) && (
            <button
              type="button"
              className="underline underline-offset-2"
              onClick={() =>
                fill.mutate({ fluid_id: fill.data.before_id, age_months: fill.data.before_months })
              }
            >
              Undo: {fill.data.before}, {fill.data.before_months.toFixed(0)} months
            </button>
          )}
        </p>
      )}
      <p className="condensed mt-2 text-xs text-muted">
        Boiling falls from dry to wet with the water a fluid takes up, about 2 % a year (estimate); silicone
        takes up next to none and is changed by its date; thin air lowers every boiling point. Change:{" "}
        {margin} left, or two years, whichever comes first. Hatching: from wet to dry; filled: the peak.
      </p>
      <Caution>
        Only a fluid the vehicle's manual allows; silicone fluid never together with another. It eats paint
        and harms skin and eyes.
      </Caution>
    </section>
  );
}
