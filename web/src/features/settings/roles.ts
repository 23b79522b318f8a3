/** Roles, and what each may, in a line. */
export const roles = [
  ["owner", "owner: people, settings, backup, everything"],
  ["fitter", "fitter: all work on all machines"],
  ["driver", "driver: machines of their own"],
  ["reader", "reader: sees, changes nothing"],
] as const;
