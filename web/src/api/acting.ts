// For whom this page sends: another tab may have signed somebody else in, or gone to another workshop, meanwhile.

type Session = { user: string; workshop_id: number };

let acting: string | null = null;

/** From now on changes are sent for this person in this workshop; null before anybody is known. */
export function actFor(session: Session | null) {
  acting = session && `${encodeURIComponent(session.user)}/${session.workshop_id}`;
}

/** As it is said with a change; null where nobody is known. */
export const actsFor = () => acting;
