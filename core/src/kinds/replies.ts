/** What an outlet answered about an SKU. */
export const REPLIES = ['accepted', 'warned', 'refused'] as const;
export type ReplyState = (typeof REPLIES)[number];
