let last = 0;

/** Names one drag or one turn of a wheel: the edits it makes are one step. */
export const newGesture = (): string => `gesture-${++last}`;
