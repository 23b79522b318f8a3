import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { Button, Failure, GroupTitle, Working } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { CheckField, TextField } from "../../ui/fields";
import { useChangeWorkshop, useWorkshopSettings } from "./queries";

/** What the workshop is called, its money, whether it asks everybody for a second factor. */
export function WorkshopPart() {
  const settings = useWorkshopSettings();
  if (settings.error) return <Failure text={problemText(settings.error)} retry={() => settings.refetch()} />;
  if (!settings.data) return <Working>Reading…</Working>;
  return <WorkshopForm key={JSON.stringify(settings.data)} kept={settings.data} />;
}

function WorkshopForm({ kept }: { kept: Schemas["WorkshopOut"] }) {
  const change = useChangeWorkshop();
  const [typed, setTyped] = useState(kept);
  const set = (part: Partial<typeof kept>) => setTyped({ ...typed, ...part });
  const changed = {
    ...(typed.name !== kept.name && { name: typed.name }),
    ...(typed.currency !== kept.currency && { currency: typed.currency }),
    ...(typed.second_factor !== kept.second_factor && { second_factor: typed.second_factor }),
  };
  return (
    <section aria-label="The workshop">
      <GroupTitle>The workshop</GroupTitle>
      <Form
        label="Settings of the workshop"
        className="max-w-md space-y-3"
        refused={useRefused(change.error)}
        onSend={() => change.mutate({ ...changed, seen: kept })}
      >
        <TextField label="Name" path="name" value={typed.name} required onChange={(name) => set({ name })} />
        <TextField
          label="Money, as it stands before a price"
          path="currency"
          value={typed.currency}
          required
          onChange={(currency) => set({ currency })}
        />
        <CheckField checked={typed.second_factor} onChange={(second_factor) => set({ second_factor })}>
          Everybody signs in with a second factor. Who has none is asked to set one up before anything else.
        </CheckField>
        <Button type="submit" primary disabled={change.isPending || Object.keys(changed).length === 0}>
          Keep
        </Button>
      </Form>
    </section>
  );
}
