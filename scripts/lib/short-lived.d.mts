export const SHORT_LIVED: readonly string[];
