/** Gives what waits for a worker its turn; to be waited for now and then in long work. */
export const breathe = (): Promise<void> => new Promise((done) => setTimeout(done));
