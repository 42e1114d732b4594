export * from './cross-reference.ts';
export { worstOf, type FitItem, type FitState, type FitSubject } from './fit.ts';
export * from './replacement.ts';
export {
  GROUPS,
  parameterOf,
  type Answer,
  type Answers,
  type Group,
  type Part,
  type SettingLine,
  type SettingSheet,
  type Why,
} from './settings.ts';
export type { ChosenTerminals, LinkMove, Move, MoveDoubt, WireMoves } from './wire-moves.ts';
export * from './sayings.ts';
export * from './sheet.ts';
export { PHASES, type Phase, type Task } from './tasks.ts';
export { outsideTable, type OutsideTable, type RegisterFacts, type RegisterLine } from './outside.ts';
export { survey, type Surveyed, type SurveyedQuestion } from './survey.ts';
export * from './edit-cross-reference.ts';
export * from './names.ts';
