import { useState } from "react";
import { useNavigate } from "react-router";
import { problemText } from "../../api/client";
import { useRefused } from "../../api/refused";
import { counted } from "../../lib/text";
import { Button, buttonLook, Failure, GroupTitle } from "../../ui/basics";
import { FileButton } from "../../ui/FileButton";
import { Form } from "../../ui/Form";
import { SelectField, TextField } from "../../ui/fields";
import { useMay } from "../session/queries";
import { useHandOver, useMachines, useOwners, useTakeInMachine, useTakeInWorkshop } from "./queries";

/** Owners with their machines; a machine to another owner, or to another workshop as a file. */
export function Owners() {
  const owners = useOwners();
  const machines = useMachines();
  const { works, owns } = useMay();
  if (owners.error) return <Failure text={problemText(owners.error)} retry={() => owners.refetch()} />;
  return (
    <section aria-label="Owners" className="mt-8 grid gap-x-8 gap-y-6 md:grid-cols-2">
      <div>
        <GroupTitle>Owners</GroupTitle>
        <ul className="border-t border-ink">
          {(owners.data ?? []).map((owner) => (
            <li key={owner.id} className="flex justify-between border-b border-hairline py-1.5">
              <span>{owner.name}</span>
              <span className="condensed text-muted">{counted(owner.machines, "machine")}</span>
            </li>
          ))}
        </ul>
        {works && <HandOver names={(owners.data ?? []).map((owner) => owner.name)} />}
      </div>
      <div>
        <GroupTitle>To and from another workshop</GroupTitle>
        <p className="mb-2 max-w-prose text-muted">
          A machine goes with everything that happened to it, as a file; so does the whole workshop, without
          its people, with every table as CSV beside it. Read in again, every row is as it was.
        </p>
        <div className="flex flex-wrap gap-2">
          {(machines.data ?? []).map((machine) => (
            <a
              key={machine.id}
              href={`/api/machines/${machine.id}/export`}
              className={`condensed inline-flex items-center ${buttonLook(false, true)}`}
            >
              {machine.name}
            </a>
          ))}
          {owns && (
            <a
              href="/api/workshop/export"
              className={`condensed inline-flex items-center ${buttonLook(false, true)}`}
            >
              The whole workshop
            </a>
          )}
        </div>
        {works && <TakeIn empty={owns && machines.data?.length === 0} />}
      </div>
    </section>
  );
}

function HandOver({ names }: { names: string[] }) {
  const machines = useMachines();
  const give = useHandOver();
  const [machine, setMachine] = useState("");
  const [owner, setOwner] = useState("");
  const rows = machines.data ?? [];
  const chosen = machine || String(rows[0]?.id ?? "");
  return (
    <Form
      label="Hand a machine over"
      className="mt-3 flex flex-wrap items-end gap-3"
      refused={useRefused(give.error)}
      onSend={() => give.mutate({ id: Number(chosen), owner }, { onSuccess: () => setOwner("") })}
    >
      <SelectField
        label="Machine"
        value={chosen}
        options={rows.map((row) => [String(row.id), row.name] as const)}
        onChange={setMachine}
      />
      <TextField label="to" path="owner" value={owner} required suggestions={names} onChange={setOwner} />
      <Button type="submit" disabled={!owner.trim() || give.isPending}>
        Hand it over
      </Button>
      {give.data && (
        <p role="status" className="w-full">
          {give.data.name} is theirs now, with its log.
        </p>
      )}
    </Form>
  );
}

function TakeIn({ empty }: { empty: boolean }) {
  const machine = useTakeInMachine();
  const workshop = useTakeInWorkshop();
  const navigate = useNavigate();
  const choose = (label: string, onFile: (file: File) => void) => (
    <FileButton
      className={`mt-2 inline-flex ${buttonLook()}`}
      accept=".json,.zip,application/json,application/zip"
      onFile={onFile}
    >
      {label}
    </FileButton>
  );
  const failed = machine.error ?? workshop.error;
  return (
    <div className="flex flex-wrap gap-2">
      {choose("Take a machine in", (file) =>
        machine.mutate(file, { onSuccess: (came) => navigate(`/m/${came.id}/machine`) }),
      )}
      {empty && choose("Read a workshop in", (file) => workshop.mutate(file))}
      {failed && <Failure text={problemText(failed)} />}
    </div>
  );
}
