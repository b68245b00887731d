export * from './call.ts';
export * as calls from './calls.ts';
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
} from './calls.ts';
export * from './events.ts';
export { type CodesBy, type GivenCode } from './goodsCalls.ts';
export { type CalendarFormula, type CalendarSale, type SaleTimes } from './calendarCalls.ts';
export { type Planned, type Planning } from './plannedCalls.ts';
export { type LandingFilter, type TakeBackOnly } from './journalCalls.ts';
export { type Desk, keptLayoutSchema, type KeptRule } from './keptCalls.ts';
export * from './problemDetails.ts';
export * from './listOf.ts';
export { type OutletSettings, outletSettingsOf } from './outletSettings.ts';
export { type ShippingTold } from './shippingCalls.ts';
export * from './schemas.ts';
export * from './words/problems.en.ts';
