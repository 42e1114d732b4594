/** An error as RFC 9457 has it; `detail` is written for a technician. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  /** Single findings, where there is more than one thing to mend. */
  readonly findings?: readonly string[];
}
