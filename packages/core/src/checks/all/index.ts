// Every check, in the order in which they are told.

import type { Check } from '../check.ts';
import { addressShared } from './address-shared.ts';
import { baselineUnproved } from './baseline-unproved.ts';
import { brakeCoast } from './brake-coast.ts';
import { brakeCurrent } from './brake-current.ts';
import { brakeTimes } from './brake-times.ts';
import { brakingTooShort } from './braking-too-short.ts';
import { contactSense } from './contact-sense.ts';
import { countFilter } from './count-filter.ts';
import { currentOverPlate } from './current-over-plate.ts';
import { currentOverUnit } from './current-over-unit.ts';
import { curveFlat } from './curve-flat.ts';
import { externalOpen } from './external-open.ts';
import { fireRestart } from './fire-restart.ts';
import { firmwareOlder } from './firmware-older.ts';
import { functionTwice } from './function-twice.ts';
import { handAtPowerUp } from './hand-at-power-up.ts';
import { hangingCoast } from './hanging-coast.ts';
import { hpForKw } from './hp-for-kw.ts';
import { identifiedFar } from './identified-far.ts';
import { identifiedUnused } from './identified-unused.ts';
import { inputDead } from './input-dead.ts';
import { limitOverUnit } from './limit-over-unit.ts';
import { limitsCrossed } from './limits-crossed.ts';
import { liveZeroUnwatched } from './live-zero-unwatched.ts';
import { lockOn } from './lock-on.ts';
import { loopLimits } from './loop-limits.ts';
import { loopNoFeedback } from './loop-no-feedback.ts';
import { loopSense } from './loop-sense.ts';
import { loopSetpoint } from './loop-setpoint.ts';
import { lossUnseen } from './loss-unseen.ts';
import { maximumOverMotor } from './maximum-over-motor.ts';
import { memoryDiffers } from './memory-differs.ts';
import { meterSignal } from './meter-signal.ts';
import { networkLossIgnored } from './network-loss-ignored.ts';
import { noBaseline } from './no-baseline.ts';
import { offBy } from './off-by.ts';
import { outsideRange } from './outside-range.ts';
import { overloadOff } from './overload-off.ts';
import { overloadOverPlate } from './overload-over-plate.ts';
import { plateFrequency } from './plate-frequency.ts';
import { plateVoltage } from './plate-voltage.ts';
import { powerContradicts } from './power-contradicts.ts';
import { programOwns } from './program-owns.ts';
import { rampTooShort } from './ramp-too-short.ts';
import { regionMains } from './region-mains.ts';
import { residualFilter } from './residual-filter.ts';
import { resistorUnfitted } from './resistor-unfitted.ts';
import { restartMaintained } from './restart-maintained.ts';
import { runContradicts } from './run-contradicts.ts';
import { signalBoard } from './signal-board.ts';
import { signalSender } from './signal-sender.ts';
import { skipOverSpeed } from './skip-over-speed.ts';
import { sourceUnfed } from './source-unfed.ts';
import { speedOutside } from './speed-outside.ts';
import { speedPoles } from './speed-poles.ts';
import { starForDelta } from './star-for-delta.ts';
import { startAtPowerUp } from './start-at-power-up.ts';
import { stoOpen } from './sto-open.ts';
import { stopChanged } from './stop-changed.ts';
import { stopUnfed } from './stop-unfed.ts';
import { supplyBelow } from './supply-below.ts';
import { vPerHertz } from './v-per-hertz.ts';
import { writeLocked } from './write-locked.ts';

export const CHECKS: readonly Check[] = [
  limitsCrossed,
  outsideRange,
  speedOutside,
  skipOverSpeed,
  rampTooShort,
  brakingTooShort,
  currentOverPlate,
  currentOverUnit,
  limitOverUnit,
  overloadOverPlate,
  overloadOff,
  plateFrequency,
  plateVoltage,
  vPerHertz,
  supplyBelow,
  maximumOverMotor,
  speedPoles,
  powerContradicts,
  hpForKw,
  starForDelta,
  offBy,
  identifiedUnused,
  identifiedFar,
  inputDead,
  functionTwice,
  runContradicts,
  contactSense,
  stopUnfed,
  externalOpen,
  programOwns,
  countFilter,
  signalBoard,
  signalSender,
  liveZeroUnwatched,
  lossUnseen,
  curveFlat,
  loopNoFeedback,
  loopSense,
  loopSetpoint,
  loopLimits,
  meterSignal,
  sourceUnfed,
  restartMaintained,
  startAtPowerUp,
  handAtPowerUp,
  stoOpen,
  networkLossIgnored,
  fireRestart,
  brakeCurrent,
  brakeTimes,
  brakeCoast,
  hangingCoast,
  resistorUnfitted,
  stopChanged,
  lockOn,
  writeLocked,
  addressShared,
  regionMains,
  residualFilter,
  firmwareOlder,
  noBaseline,
  baselineUnproved,
  memoryDiffers,
];
