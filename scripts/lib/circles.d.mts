export function circlesIn(arrows: ReadonlyMap<string, readonly string[]>): string[][];
export function circles(): string[][];
