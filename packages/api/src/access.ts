export const ROLES = ['viewer', 'technician', 'engineer'] as const;
export type Role = (typeof ROLES)[number];

/** Who is signed in. */
export interface SessionView {
  readonly person: string;
  readonly signInName: string;
  readonly role: Role;
  /** The one-time password is still in use and has to be changed first. */
  readonly mustChangePassword: boolean;
  readonly plant: string;
}
