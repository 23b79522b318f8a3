import { useNavigate } from "react-router";
import { problemText } from "../../api/client";
import { useRefused } from "../../api/refused";
import { leverText } from "../../lib/hands";
import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { counted } from "../../lib/text";
import { Button, Caution, Failure, GroupTitle, StageTitle, Working } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { SelectField, TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { useCatalogue } from "../catalogue/queries";
import { useDuties } from "../duty/queries";
import { useMachines } from "../workshop/queries";
import {
  aboutText,
  type Draft,
  draftStore,
  emptyDraft,
  fieldsFor,
  rough,
  typedOnly,
  usualOf,
} from "./adding";
import { type Field, groups } from "./fields";
import { useAddMachine, useClassEstimates, useClasses } from "./queries";

const nothing = {};

/** A machine from what is known of it: every box may stay empty, and says what will stand in its place. */
export function AddMachine() {
  const draft = useStore(draftStore);
  const set = (change: Partial<Draft>) => draftStore.set({ ...draftStore.get(), ...change });
  const { system } = useUnits();
  const ridden = draft.vehicle_class.includes("motorcycle");
  const word = (text: string) => (ridden ? leverText(text) : text);
  const classes = useClasses();
  const machines = useMachines();
  const duties = useDuties();
  const known = typedOnly(draft.known);
  const found = useClassEstimates(draft.vehicle_class, known);
  const add = useAddMachine();
  const navigate = useNavigate();
  const estimates = found.data ?? {};
  const plain = useClassEstimates(draft.vehicle_class, nothing).data ?? {};
  const refused = useRefused(add.error);
  const ofClass = classes.data?.find((entry) => entry.name === draft.vehicle_class)?.label ?? "";
  const compounds = (useCatalogue().data?.compounds ?? []).map((row) => row.name);
  const owners = [...new Set((machines.data ?? []).map((row) => row.owner))];
  const open = fieldsFor(estimates, draft.known).filter((field) => !(field.path in known)).length;

  function save() {
    add.mutate(
      {
        name: draft.name.trim(),
        owner: draft.owner.trim(),
        note: draft.note.trim(),
        vehicle_class: draft.vehicle_class,
        known,
        duty_id: draft.duty_id,
        pads: draft.pads?.trim() ?? "",
      },
      {
        onSuccess: (machine) => {
          draftStore.set(emptyDraft);
          navigate(`/m/${machine.id}/machine`);
        },
      },
    );
  }

  if (classes.error) return <Failure text={problemText(classes.error)} retry={() => classes.refetch()} />;
  if (!classes.data) return <Working>Fetching the classes…</Working>;
  return (
    <Form begin onSend={save} refused={refused}>
      <StageTitle
        title="Add a machine"
        note="Type what you know, in any unit. Whatever you leave open is estimated from its class, marked, and can be measured later."
      />
      <div className="grid max-w-4xl grid-cols-2 gap-x-4 gap-y-3 border-t border-ink pt-3 sm:grid-cols-4">
        <TextField
          label="What it is called"
          value={draft.name}
          required
          path="name"
          onChange={(name) => set({ name })}
        />
        <TextField
          label="Owner"
          value={draft.owner}
          required
          path="owner"
          suggestions={owners}
          onChange={(owner) => set({ owner })}
        />
        <TextField label="Note" wide value={draft.note} onChange={(note) => set({ note })} />
        <SelectField
          label="Class, for what is not known"
          value={draft.vehicle_class}
          options={classes.data.map((entry) => [entry.name, entry.label] as const)}
          onChange={(vehicle_class) => set({ vehicle_class })}
        />
        <SelectField
          label="Duty to start with"
          value={String(draft.duty_id ?? "")}
          options={[
            ["", "a street mix"],
            ...(duties.data ?? []).map((row) => [String(row.id), row.name] as const),
          ]}
          onChange={(id) => set({ duty_id: id ? Number(id) : null })}
        />
        <div className="col-span-2">
          <TextField
            label="Pads that are on it; empty: as found, unknown"
            path="pads"
            value={draft.pads ?? ""}
            suggestions={compounds}
            onChange={(pads) => set({ pads })}
          />
        </div>
      </div>
      {groups.map((group) => {
        const present = fieldsFor(estimates, draft.known, group.fields);
        const usual = present.filter((field) => !field.more);
        const seldom = present.filter((field) => field.more);
        const box = (field: Field) => {
          const about = aboutText(field, estimates[field.path], system);
          const guess = estimates[field.path]?.value ?? null;
          return (
            <NumberField
              key={field.path}
              label={word(field.label)}
              quantity={field.quantity}
              system={system}
              nullable
              value={draft.known[field.path] ?? null}
              placeholder={guess === null ? "open" : rough(guess, field, system)}
              hint={field.path in known ? undefined : about || word(field.how)}
              path={field.path}
              tyre={field.tyre}
              usual={usualOf(field, plain[field.path], ofClass)}
              onCommit={(value) => set({ known: { ...draftStore.get().known, [field.path]: value } })}
            />
          );
        };
        if (present.length === 0) return null;
        return (
          <fieldset key={group.title} className="mt-5 border-t border-ink pt-2">
            <legend className="sr-only">{group.title}</legend>
            <GroupTitle>{word(group.title)}</GroupTitle>
            <div className="grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-4 2xl:grid-cols-6">
              {usual.map(box)}
            </div>
            {seldom.length > 0 && (
              <details className="mt-2">
                <summary className="condensed cursor-pointer underline underline-offset-2">
                  {seldom.length} more, seldom known: {group.title.toLowerCase()}
                </summary>
                <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-4 2xl:grid-cols-6">
                  {seldom.map(box)}
                </div>
              </details>
            )}
          </fieldset>
        );
      })}
      <div className="mt-6 flex flex-wrap items-center gap-4 border-t border-ink pt-3">
        <Button type="submit" primary disabled={!draft.name.trim() || !draft.owner.trim() || add.isPending}>
          Add the machine
        </Button>
        <span className="condensed text-muted">
          {!draft.name.trim() || !draft.owner.trim()
            ? "It needs a name and an owner; nothing else."
            : `${counted(Object.keys(known).length, "number")} known, ${open} estimated.`}
        </span>
      </div>
      <Caution>
        Estimates support a first look; they certify nothing. Measure what moves the answer before you buy
        parts by it.
      </Caution>
    </Form>
  );
}
