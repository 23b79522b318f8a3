import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { dateText } from "../../lib/text";
import { Button, Failure, GroupTitle, Working } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { SelectField, TextField } from "../../ui/fields";
import { Cell, Row, RowHead, Table, unseen } from "../../ui/Table";
import { usePublicAddress } from "../session/queries";
import { useOwners } from "../workshop/queries";
import { KeyTable } from "./KeyTable";
import { MemberDrawer } from "./MemberDrawer";
import { useInvite, usePeople, useWithdrawAddress, useWithdrawAnyKey } from "./queries";
import { roles } from "./roles";
import { joinAddress, momentText, Shown } from "./Shown";

/** Who belongs to the workshop, who is invited, whose keys are in use. */
export function People() {
  const people = usePeople();
  const [open, setOpen] = useState<number | null>(null);
  const withdrawKey = useWithdrawAnyKey();
  if (people.error) return <Failure text={problemText(people.error)} retry={() => people.refetch()} />;
  if (!people.data) return <Working>Reading…</Working>;
  const { members, addresses, keys, can_mail } = people.data;
  const chosen = members.find((row) => row.id === open);
  return (
    <div className="space-y-8">
      <section aria-label="Members">
        <GroupTitle>Members</GroupTitle>
        <Table
          label="Members"
          width="max-w-3xl"
          heads={[
            "Name",
            "Role",
            "Machines of",
            { text: "Second factor", className: "max-md:hidden" },
            { text: "Last seen", className: "max-md:hidden" },
            unseen("Change"),
          ]}
        >
          <tbody>
            {members.map((row) => (
              <Row key={row.id}>
                <RowHead>
                  {row.name}
                  {row.is_me && <span className="text-muted"> (you)</span>}
                </RowHead>
                <Cell>{row.role}</Cell>
                <Cell>{row.machines_of || "–"}</Cell>
                <Cell className="max-md:hidden">{row.second_factor ? "on" : "off"}</Cell>
                <Cell className="condensed max-md:hidden">{momentText(row.last_seen)}</Cell>
                <Cell className="text-right">
                  <Button small onClick={() => setOpen(row.id)}>
                    Change<span className="sr-only"> {row.name}</span>
                  </Button>
                </Cell>
              </Row>
            ))}
          </tbody>
        </Table>
      </section>
      <Invitations addresses={addresses} canMail={can_mail} />
      {keys.length > 0 && (
        <section aria-label="Keys in use">
          <GroupTitle>Keys in use</GroupTitle>
          <KeyTable keys={keys} people pending={withdrawKey.isPending} onWithdraw={withdrawKey.mutate} />
          {withdrawKey.error && <Failure text={problemText(withdrawKey.error)} />}
        </section>
      )}
      {chosen && <MemberDrawer member={chosen} onClose={() => setOpen(null)} />}
    </div>
  );
}

type InviteProps = { addresses: Schemas["AddressOut"][]; canMail: boolean };

function Invitations({ addresses, canMail }: InviteProps) {
  const address = usePublicAddress();
  const invite = useInvite();
  const withdraw = useWithdrawAddress();
  const owners = useOwners();
  const [body, setBody] = useState<Schemas["InviteAsk"]>({
    role: "fitter",
    note: "",
    machines_of: "",
    mail: "",
  });
  const set = (part: Partial<Schemas["InviteAsk"]>) => setBody({ ...body, ...part });
  const refused = useRefused(invite.error);
  const names = (owners.data ?? []).map((row) => [row.name, row.name] as const);
  return (
    <section aria-label="Invitations">
      <GroupTitle>Invite somebody</GroupTitle>
      <p className="mb-3 max-w-prose text-muted">
        You get an address to hand on. It is good for one person, for seven days, in the role you fix here.
      </p>
      <Form
        label="Invite somebody"
        className="grid max-w-3xl gap-3 md:grid-cols-3"
        refused={refused}
        onSend={() =>
          invite.mutate(
            { ...body, machines_of: body.role === "driver" ? (body.machines_of ?? "") : "" },
            { onSuccess: () => set({ note: "", mail: "" }) },
          )
        }
      >
        <SelectField
          label="As"
          value={body.role}
          options={roles}
          onChange={(value) => set({ role: roles.find(([name]) => name === value)?.[0] ?? "reader" })}
        />
        {body.role === "driver" && (
          <SelectField
            label="Their own machines are those of"
            value={body.machines_of ?? ""}
            options={[["", "nobody yet"], ...names]}
            onChange={(machines_of) => set({ machines_of })}
          />
        )}
        <TextField
          label="For whom (for you to remember)"
          path="note"
          value={body.note ?? ""}
          onChange={(note) => set({ note })}
        />
        {canMail && (
          <TextField
            label="Mail it to (optional)"
            path="mail"
            value={body.mail ?? ""}
            onChange={(mail) => set({ mail })}
          />
        )}
        <div className="self-end">
          <Button type="submit" primary disabled={invite.isPending}>
            Make the address
          </Button>
        </div>
      </Form>
      {invite.data && (
        <Shown
          label={`Address for ${invite.data.address.note || `a ${invite.data.address.role}`}`}
          text={joinAddress(address, invite.data.secret)}
          note={`Shown this once, good until ${dateText(invite.data.address.ends_at)}.${invite.data.mailed ? " It was mailed as well." : ""} Whoever opens it first is in: hand it to nobody else.`}
          onDone={invite.reset}
        />
      )}
      {addresses.length > 0 && (
        <Table
          className="mt-4"
          label="Open addresses"
          width="max-w-3xl"
          heads={["Open address", "For", "Good until", unseen("Withdraw")]}
        >
          <tbody>
            {addresses.map((row) => (
              <Row key={row.id}>
                <RowHead>
                  {row.kind === "reset"
                    ? "another password"
                    : `${row.role}${row.machines_of ? `, machines of ${row.machines_of}` : ""}`}
                </RowHead>
                <Cell>{row.name || row.note || "–"}</Cell>
                <Cell className="condensed">{momentText(row.ends_at)}</Cell>
                <Cell className="text-right">
                  <Button small disabled={withdraw.isPending} onClick={() => withdraw.mutate(row.id)}>
                    Withdraw<span className="sr-only">: {row.name || row.note || row.role}</span>
                  </Button>
                </Cell>
              </Row>
            ))}
          </tbody>
        </Table>
      )}
      {withdraw.error && <Failure text={problemText(withdraw.error)} />}
    </section>
  );
}
