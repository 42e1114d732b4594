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
  /** What the plant lets this person do beside what the role says. */
  readonly may: Readonly<Record<Permission, boolean>>;
  readonly decimalMark: 'point' | 'comma';
  /** This is a restored copy that talks to no unit. */
  readonly isCopy: boolean;
}

/** What a plant gives to technicians or keeps for engineers. */
export const PERMISSIONS = ['write', 'register'] as const;
export type Permission = (typeof PERMISSIONS)[number];

/** A browser in which somebody is signed in. */
export interface OpenSession {
  readonly id: string;
  readonly browser: string;
  readonly cameFrom: string;
  readonly openedAt: string;
  readonly seenAt: string;
  /** The one that asks. */
  readonly own: boolean;
}

export interface PersonView {
  readonly id: string;
  readonly person: string;
  readonly signInName: string;
  readonly role: Role;
  readonly disabledAt: string | null;
  readonly mustChangePassword: boolean;
  readonly sessions: readonly OpenSession[];
  readonly version: number;
}

/** Shown once: the server keeps its hash alone. */
export interface OneTimePassword {
  readonly person: PersonView;
  readonly password: string;
}

export interface ScriptTokenView {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly madeBy: string;
  readonly madeAt: string;
  readonly expiresAt: string;
  readonly usedAt: string | null;
  readonly endedAt: string | null;
}

/** Facts of the plant, and how it works with its drives. */
export interface PlantView {
  readonly name: string;
  /** A baseline is signed by another person than the one who proposed it. */
  readonly secondSignature: boolean;
  /** When new rounds begin unless told otherwise: `02:00`. */
  readonly nightlyAt: string;
  /** After so many hours a backup of a unit on a line is overdue. */
  readonly overdueHours: number;
  /** In V and Hz; nothing where it is not told. */
  readonly mainsVoltage: number | null;
  readonly mainsFrequency: 50 | 60 | null;
  /** IANA name; empty for that of the server. */
  readonly timeZone: string;
  readonly decimalMark: 'point' | 'comma';
  /** Where people reach it, for labels: `https://drives.plant.local:8420`. */
  readonly address: string;
  /** The least role that may. */
  readonly may: Readonly<Record<Permission, 'technician' | 'engineer'>>;
  readonly isCopy: boolean;
  readonly version: number;
}

/** What comes next in an installation that is new. */
export interface FirstStep {
  readonly id: 'name' | 'people' | 'line' | 'model' | 'units' | 'backup' | 'baseline' | 'round';
  readonly done: boolean;
}

/** The local authority of an installation with https; nothing where the plant brought its own certificate, or with plain http. */
export interface AuthorityView {
  /** SHA-256, as the server printed it when it started. */
  readonly fingerprint: string | null;
  readonly validTo: string | null;
}
