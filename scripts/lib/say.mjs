/** One plain line to whoever watches. */
export const say = (text) => process.stdout.write(`${text}\n`);
