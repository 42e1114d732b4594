export * from './proof-step.ts';
export { rampSettingOf } from './ramp-setting.ts';
export { idOf, proofPlanOf, VALUES_STEP } from './steps.ts';
export { canJudge, Judge, type Judgement, type Observed, type Told } from './judge.ts';
export { likelyOf } from './likely.ts';
export { whatMatters } from './what-matters.ts';
export { deedsOfStep, rehearsal, type Rehearsed } from './rehearsal.ts';
