/** What each role is called, and may do. */
export const ROLES = {
  coach: { name: "Coach", may: "does everything" },
  assistant: {
    name: "Assistant",
    may: "marks, adds and reads; takes nothing away and does not export the yard",
  },
  rider: { name: "Rider", may: "sees reports and films of their own horses, not your notes" },
} as const;

export type Role = keyof typeof ROLES;
