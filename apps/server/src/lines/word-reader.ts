// Reads registers of one unit request by request. Those that the unit refuses are found by halving, so that one register
// that is not there takes nothing of its neighbours with it.

import { isRefusal, type DriveLine, type LineFault } from './drive-line.ts';
import { planReads, splitRequest, type Place, type ReadRequest } from './read-plan.ts';

export class WordReader {
  /** By unified address. */
  readonly words = new Map<number, number>();
  readonly refused = new Set<number>();

  constructor(
    private readonly line: DriveLine,
    private readonly unit: number,
    private readonly places: readonly Place[],
  ) {}

  /** Why nothing further can be read, or nothing where the request was answered, be it by refusals. */
  async take(request: ReadRequest): Promise<LineFault | undefined> {
    const answer = await this.line.read(this.unit, request.address, request.count);
    if (answer.ok) {
      answer.value.forEach((word, at) => this.words.set(request.address + at, word));
      return undefined;
    }
    if (!isRefusal(answer.fault)) return answer.fault;
    const parts = splitRequest(request, this.places);
    if (parts.length < 2) {
      this.refused.add(request.address);
      return undefined;
    }
    for (const part of parts) {
      const fault = await this.take(part);
      if (fault) return fault;
    }
    return undefined;
  }

  /** All places, none of which is bridged to the next: nothing is known of what lies between. */
  async takeAll(): Promise<LineFault | undefined> {
    const limits = { largestRead: this.line.largestRead, bridgeGaps: false, reserved: [] };
    for (const request of planReads(this.places, limits)) {
      const fault = await this.take(request);
      if (fault) return fault;
    }
    return undefined;
  }
}
