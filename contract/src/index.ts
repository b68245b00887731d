export * from './calls/call.ts';
export * from './calls/requestOf.ts';
export * as calls from './calls/calls.ts';
export {
  type Delivery,
  type Import,
  type ImportSettings,
  type Outlet,
  type OutletFormula,
  type SetStep,
  deliverySchema,
  importRowSchema,
  type KeptFile,
  type KeptPicture,
  shopProductSchema,
  type WantedLine,
} from './calls/calls.ts';
export * from './events.ts';
export { type CodesBy, type GivenCode } from './calls/goodsCalls.ts';
export { type CalendarFormula, type CalendarSale, type SaleTimes } from './calls/calendarCalls.ts';
export { type Planned, type Planning } from './calls/plannedCalls.ts';
export { type LandingFilter, type TakeBackOnly } from './calls/journalCalls.ts';
export { type Desk, keptLayoutSchema, type KeptRule } from './calls/keptCalls.ts';
export * from './problemDetails.ts';
export * from './listOf.ts';
export { type OutletSettings, outletSettingsOf } from './outletSettings.ts';
export { type ShippingTold } from './calls/shippingCalls.ts';
export * from './schemas.ts';
export * from './words/problems.en.ts';
export { refusalWords } from './words/refusals.en.ts';
