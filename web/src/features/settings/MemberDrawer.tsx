import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { Button, Failure } from "../../ui/basics";
import { Drawer } from "../../ui/Drawer";
import { CheckField, SelectField } from "../../ui/fields";
import { usePublicAddress } from "../session/queries";
import { useOwners } from "../workshop/queries";
import { useGiveReset, useGiveRole, useSayDrives, useTakeOutMember } from "./queries";
import { roles } from "./roles";
import { joinAddress, Shown } from "./Shown";

type Props = { member: Schemas["MemberOut"]; onClose: () => void };

/** One member: role, whose machines are theirs, another password, out. */
export function MemberDrawer({ member, onClose }: Props) {
  const role = useGiveRole();
  const drives = useSayDrives();
  const reset = useGiveReset();
  const out = useTakeOutMember();
  const owners = useOwners();
  const address = usePublicAddress();
  const [leaving, setLeaving] = useState(false);
  const [forget, setForget] = useState(false);
  const failed = role.error ?? drives.error ?? reset.error ?? out.error;
  const names = (owners.data ?? []).map((row) => [row.name, row.name] as const);
  return (
    <Drawer open title={member.name} onClose={onClose}>
      <div className="grid gap-4">
        <SelectField
          label="Role"
          value={member.role}
          options={roles}
          onChange={(value) => {
            const found = roles.find(([name]) => name === value);
            if (found) role.mutate({ member_id: member.id, role: found[0] });
          }}
        />
        <SelectField
          label="Their own machines are those of"
          value={member.machines_of}
          options={[["", "nobody"], ...names]}
          onChange={(machines_of) => drives.mutate({ member_id: member.id, machines_of })}
        />
        {failed && <Failure text={problemText(failed)} />}
        {!member.is_me && (
          <section aria-label="Another password">
            {reset.data ? (
              <Shown
                label={`Address for ${member.name}`}
                text={joinAddress(address, reset.data.secret)}
                note="Good once, for seven days. With it another password is set, every session ends, and the second factor is off until it is set up again."
                onDone={reset.reset}
              />
            ) : member.only_here ? (
              <Button disabled={reset.isPending} onClick={() => reset.mutate(member.id)}>
                Address for another password
              </Button>
            ) : (
              <p className="text-muted">
                {member.name} works in another workshop too, and changes their password themselves.
              </p>
            )}
          </section>
        )}
        {leaving ? (
          <section aria-label="Take out" className="space-y-3 border border-hairline p-3">
            <p>
              {member.name} sees nothing of the workshop any more; their keys end. Machines and what was done
              stay.
            </p>
            {member.only_here && (
              <CheckField checked={forget} onChange={setForget}>
                Forget the name as well: the log says “former member”. Nobody brings it back.
              </CheckField>
            )}
            <div className="flex gap-2">
              <Button
                primary
                disabled={out.isPending}
                onClick={() => out.mutate({ member_id: member.id, forget }, { onSuccess: onClose })}
              >
                Take {member.name} out
              </Button>
              <Button onClick={() => setLeaving(false)}>Leave it</Button>
            </div>
          </section>
        ) : (
          !member.is_me && <Button onClick={() => setLeaving(true)}>Take out of the workshop</Button>
        )}
      </div>
    </Drawer>
  );
}
