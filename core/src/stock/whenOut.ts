/** What happens to goods when their stock runs out. */
export const WHEN_OUT = ['hide it', 'show it as sold out', 'take back-orders'] as const;
export type WhenOut = (typeof WHEN_OUT)[number];
