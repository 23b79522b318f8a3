import { NavLink, useParams } from "react-router";
import { useSession } from "../../features/session/queries";
import { StageTitle } from "../../ui/basics";
import { Backup } from "./Backup";
import { Keys } from "./Keys";
import { Me } from "./Me";
import { People } from "./People";
import { WorkshopPart } from "./WorkshopPart";

const parts = [
  { name: "me", label: "Me", owners: false, Part: Me },
  { name: "keys", label: "Device keys", owners: false, Part: Keys },
  { name: "people", label: "People", owners: true, Part: People },
  { name: "workshop", label: "Workshop", owners: true, Part: WorkshopPart },
  { name: "backup", label: "Backup", owners: true, Part: Backup },
] as const;

/** What is one's own, and for owners what is the workshop's. */
export function Settings() {
  const { part = "me" } = useParams();
  const session = useSession().data;
  if (!session) return null;
  const mine = parts.filter((entry) => !entry.owners || session.role === "owner");
  const here = mine.find((entry) => entry.name === part);
  return (
    <>
      <StageTitle
        title="Settings"
        note={`Signed in as ${session.user}, ${session.role} of ${session.workshop}`}
      />
      {session.demo && (
        <p role="note" className="mb-3 text-muted">
          The demo signs everybody on this machine in by itself, without a password: what asks for one here is
          to be looked at.
        </p>
      )}
      <nav aria-label="Settings" className="mb-5 flex flex-wrap border-b border-ink">
        {mine.map(({ name, label }) => (
          <NavLink
            key={name}
            to={`/settings/${name}`}
            className="inline-flex min-h-8 items-center px-3 max-md:px-2 aria-[current=page]:bg-ink aria-[current=page]:text-chalk bay:min-h-11"
          >
            {label}
          </NavLink>
        ))}
      </nav>
      {here ? <here.Part /> : <p>This part is for owners of the workshop.</p>}
    </>
  );
}
