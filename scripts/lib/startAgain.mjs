import { startAgain } from './postgres.mjs';

// node startAgain.mjs FOLDER: for the trials of crashes, which kill their own PostgreSQL.
await startAgain(process.argv[2]);
