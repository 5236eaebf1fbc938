/** Lets the page do what else waits, such as showing what has changed. */
export const otherWork = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));
