import { useState } from "react";
import { Link } from "react-router";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { dateText } from "../../lib/text";
import { Button, Failure, GroupTitle, StateWord, Working } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { TextField } from "../../ui/fields";
import { TakeOut } from "../../ui/TakeOut";
import { useSettledWhatIf } from "../whatif";
import { useDecisions, useKeepDecision, useRemoveDecision } from "./queries";

type FormProps = {
  machineId: number;
  keys: string[];
  names: string[];
  weights: Schemas["WeightsIO"] | null;
  mixed: boolean;
  duty: string;
};

/** Keep some sets as they stand now, under a title and with a note. */
export function KeepForm({ machineId, keys, names, weights, mixed, duty }: FormProps) {
  const keep = useKeepDecision(machineId);
  const whatIf = useSettledWhatIf(machineId);
  const [title, setTitle] = useState("");
  const [note, setNote] = useState("");
  const refused = useRefused(keep.error);
  if (keys.length === 0) return null;
  const usual = `Shortlist for ${duty}`.slice(0, 120);
  return (
    <Form
      className="mt-5 border-t border-hairline pt-3"
      label="Keep a shortlist"
      refused={refused}
      onSend={() => {
        keep.mutate({ ...whatIf, keys, weights, mixed, title: title.trim() || usual, note });
      }}
    >
      <GroupTitle>Keep this shortlist</GroupTitle>
      <p className="mb-2 text-muted">
        {names.join(", ")}: with their reasons and what they rest on, to read later, share or print.
      </p>
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-64">
          <TextField label={`Title (else: ${usual})`} value={title} onChange={setTitle} />
        </div>
        <div className="w-80 max-w-full">
          <TextField label="Note" value={note} onChange={setNote} />
        </div>
        <Button type="submit" disabled={keep.isPending}>
          Keep
        </Button>
      </div>
      {keep.isPending && <Working>Running each set with its estimates off…</Working>}
      {keep.data && (
        <p className="mt-2" role="note">
          Kept:{" "}
          <Link className="underline underline-offset-2" to={`/m/${machineId}/decision/${keep.data.id}`}>
            {keep.data.title}
          </Link>
        </p>
      )}
    </Form>
  );
}

/** Decisions and shortlists of a machine, newest first; one taken out can be brought back. */
export function Kept({ machineId }: { machineId: number }) {
  const found = useDecisions(machineId);
  const remove = useRemoveDecision(machineId);
  if (found.error) return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  const rows = found.data ?? [];
  if (rows.length === 0) return null;
  return (
    <section aria-label="Kept decisions" className="mt-5">
      <GroupTitle>Kept</GroupTitle>
      {remove.error && <Failure text={problemText(remove.error)} />}
      <ul>
        {rows.map((row) => (
          <li
            key={row.id}
            className="flex flex-wrap items-baseline gap-x-4 border-t border-hairline py-1.5"
            data-decision={row.removed ? "out" : "in"}
          >
            <span className="condensed w-36 text-muted">{dateText(row.made_at)}</span>
            {row.removed ? (
              <s className="text-muted">{row.title}</s>
            ) : (
              <Link
                className="font-semibold underline underline-offset-2"
                to={`/m/${machineId}/decision/${row.id}`}
              >
                {row.title}
              </Link>
            )}
            {row.fitted && <StateWord state="fine">fitted</StateWord>}
            {row.shared && <span className="condensed border border-hairline px-1 text-xs">shared</span>}
            <TakeOut
              className="ml-auto text-xs"
              removed={row.removed}
              of={row.title}
              onClick={() => remove.mutate({ row: row.id, removed: !row.removed })}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}
