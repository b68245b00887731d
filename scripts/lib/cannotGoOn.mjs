/** Something that whoever started this can mend: it is said in one line, without where in the code it was met. */
export class CannotGoOn extends Error {}

process.on('uncaughtException', (error) => {
  console.error(error instanceof CannotGoOn ? error.message : error);
  process.exit(1);
});
