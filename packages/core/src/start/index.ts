export * from './starting-point.ts';
export { COMMON_ASKS, readStartingPoint } from './read-starting-point.ts';
export { typedNumber, type Typed, type TypedFields } from './told.ts';
export { OWN_WORDS } from './wire-point.ts';
export * from './sections.ts';
export type { CarriedNote, DraftBase } from './carried.ts';
export {
  optionText,
  type Field,
  type FieldFrom,
  type FieldOption,
  type ShownProposal,
} from './draft-fields.ts';
export type { RatingFit } from './draft-rating.ts';
export type { PlacedRole, WantedRole } from './place-roles.ts';
export { proposalsOf, type Proposal, type ProposalInput } from './proposals.ts';
export * from './draft-sheet.ts';
export type { WishFrom } from './wishes.ts';
export * from './draft-input.ts';
