import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { dateText } from "../../lib/text";
import { Button, Failure, GroupTitle, StateWord } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { SelectField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { Cell, Row, RowHead, right, Table } from "../../ui/Table";
import { useFitHoses, useHoses } from "./queries";

type Kind = Schemas["HosesAsk"]["kind"];
type Axle = Schemas["HosesAsk"]["axle"];

const words = { fine: "fine", close: "look closely", over: "change them" };
const kinds: readonly (readonly [Kind, string])[] = [
  ["rubber", "rubber"],
  ["braided", "braided steel"],
  ["seals", "seals and boots"],
];

/** Which flexible hoses are on each axle, how old they are and by when to change them. */
export function Hoses({ machineId }: { machineId: number }) {
  const found = useHoses(machineId);
  if (found.error) return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  if (!found.data) return null;
  return (
    <section aria-label="Hoses" className="mt-6 max-w-2xl">
      <GroupTitle>Hoses, seals and boots</GroupTitle>
      <Table label="Hoses on it" heads={["Axle", "Kind", right("age"), "Change by", "State"]}>
        <tbody>
          {found.data.map((row) => (
            <Row key={row.what + row.axle} data-hoses={row.what === "hoses" ? row.axle : `${row.axle} seals`}>
              <RowHead>
                {row.axle}
                {row.what === "seals" && ", seals and boots"}
              </RowHead>
              <Cell>{kinds.find(([kind]) => kind === row.kind)?.[1] ?? "not known"}</Cell>
              <Cell figures>
                {row.age_months === null ? "–" : `${(row.age_months / 12).toFixed(1)} years`}
              </Cell>
              <Cell>{row.change_on ? dateText(row.change_on) : "–"}</Cell>
              <Cell>
                {row.state ? <StateWord state={row.state}>{words[row.state]}</StateWord> : "say what is on"}
              </Cell>
            </Row>
          ))}
        </tbody>
      </Table>
      <Change machineId={machineId} />
      <p className="condensed mt-2 text-xs text-muted">
        By age: looked at with care from 6 years, changed at 10 (estimate). A crack, a bulge or a wet fitting
        comes before any age: Inspect.
      </p>
    </section>
  );
}

function Change({ machineId }: { machineId: number }) {
  const { system } = useUnits();
  const fit = useFitHoses(machineId);
  const [axle, setAxle] = useState<Axle>("front");
  const [kind, setKind] = useState<Kind>("rubber");
  const [age, setAge] = useState<number | null>(0);
  return (
    <Form
      label="Say which hoses are on"
      className="mt-2 flex flex-wrap items-end gap-3"
      refused={useRefused(fit.error)}
      onSend={() => {
        if (age !== null) fit.mutate({ axle, kind, age_months: age });
      }}
    >
      <SelectField
        label="Axle"
        value={axle}
        options={[
          ["front", "front"],
          ["rear", "rear"],
        ]}
        onChange={(name) => setAxle(name === "rear" ? "rear" : "front")}
      />
      <SelectField
        label="Hoses"
        value={kind}
        options={kinds}
        onChange={(name) => setKind(kinds.find(([one]) => one === name)?.[0] ?? "rubber")}
      />
      <div className="w-36">
        <NumberField
          label="How old they are"
          path="age_months"
          quantity="months"
          value={age}
          system={system}
          onChange={setAge}
        />
      </div>
      <Button type="submit" disabled={age === null || fit.isPending}>
        These are on
      </Button>
    </Form>
  );
}
