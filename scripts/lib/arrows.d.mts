/** Which workspaces a workspace may know, by name. */
export const ARROWS: Readonly<Record<string, readonly string[]>>;
/** Names of the folders in web/features. */
export const FEATURES: readonly string[];
/** ESLint blocks, each file in one of them. */
export const arrowBlocks: readonly object[];
/** Selectors for `no-restricted-syntax`. @param ids of families */
export function familyIdSelectors(ids: readonly string[]): { selector: string; message: string }[];
