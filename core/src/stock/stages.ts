/** The stages of a product's life. */
export const STAGES = ['Preparing', 'On sale', 'Resting', 'Retired'] as const;
export type Stage = (typeof STAGES)[number];
