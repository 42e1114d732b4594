// The checks on every position of the demo plant: what its story means is found, and nothing else.

import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { ChecksView, PlantFindingsView } from '@drive-keep/api';
import { RunningPlant } from '../testing/running-plant.ts';
import { demoPositions } from './demo-positions.ts';

let plant: RunningPlant;
beforeAll(async () => {
  plant = await RunningPlant.start();
});
afterAll(() => plant.stop());

/** What runs on after a dip of the supply, and was accepted so: `(…)`. */
const RUNS_ON = ['(restart-maintained)', '(start-at-power-up)'];
const SECTIONS = Array.from({ length: 12 }, (_, at) => `KL1-RD-${String(at + 1).padStart(2, '0')}`);

/** By position: what is open, and in brackets what the engineer has accepted. */
const MEANT: Readonly<Record<string, readonly string[]>> = {
  ...Object.fromEntries(SECTIONS.map((tag) => [tag, RUNS_ON])),
  // The mistake of the story, and a change of the stop that was accepted.
  'KL1-RD-07': [...RUNS_ON, '(stop-changed stop.mode)', 'overload-over-plate'],
  // Its proof run failed at one contact.
  'KL1-RD-03': ['(baseline-unproved)', ...RUNS_ON],
  'KL1-RD-09': [...RUNS_ON, 'firmware-older'],
  // Reset with the wrong region.
  'KL1-CA-01': [...RUNS_ON, 'plate-frequency', 'plate-voltage', 'region-mains region', 'supply-below'],
  // The draught transmitter on 0 to 20 mA.
  'KL1-FD-01': [...RUNS_ON, 'fire-restart', 'signal-sender signal 2'],
  'KL1-RC-01': RUNS_ON,
  // Delivered to restart, and the reason of the first is over.
  'DR-CF-01': ['restart-maintained', 'start-at-power-up'],
  'DR-CF-02': ['(restart-maintained)', 'start-at-power-up'],
  'DR-CF-03': ['(restart-maintained)', 'start-at-power-up'],
  // More than normal duty bears for a minute.
  'BP-BM-01': ['limit-over-unit'],
  // Small motors on the smallest unit of an old series, and what a replacement took over from one.
  'GL-BE-01': ['overload-over-plate'],
  'GL-BE-02': ['overload-over-plate'],
  'GL-BE-03': ['overload-over-plate'],
  // Two motors under one name: this one was measured.
  'GL-BE-04': ['identified-unused'],
  'GL-PU-01': ['loss-unseen signal 2'],
  'PR-IN-01': ['run-contradicts input 2'],
  // A live zero that the drive does not know of.
  'PR-PB-01': ['signal-sender signal 1'],
  'PR-PB-02': ['signal-sender signal 1'],
  // A jog button, and commands from the keypad; the same at the lift, which a controller leads.
  'SP-OB-01': ['input-dead input 5'],
  'SP-ST-01': ['input-dead input 6'],
  // As delivered the old compact drive starts when its supply comes.
  'SP-OB-02': ['start-at-power-up'],
  'SP-OB-03': ['start-at-power-up'],
};

it('find what the story of the plant means, and nothing else', async () => {
  const viewer = await plant.signIn('viewer');
  const { open, positions, waiting, checked, unknown } = (await viewer.get<PlantFindingsView>('findings'))
    .body;
  expect([waiting, checked, unknown]).toEqual([0, 42, 0]);
  const found: Record<string, string[]> = {};
  let notAccepted = 0;
  for (const { tag } of demoPositions()) {
    const view = (await viewer.get<ChecksView>(`positions/${tag}/checks`)).body;
    for (const { identity, accepted } of view.findings) {
      (found[tag] ??= []).push(accepted ? `(${identity})` : identity);
      if (!accepted) notAccepted += 1;
    }
  }
  expect(open).toBe(notAccepted);
  for (const list of Object.values(found)) list.sort();
  expect(found).toEqual(MEANT);
  // Nothing on most positions but what was accepted.
  const withOpen = Object.values(MEANT).filter((all) => all.some((each) => !each.startsWith('('))).length;
  expect([positions, withOpen < 21]).toEqual([withOpen, true]);
});
