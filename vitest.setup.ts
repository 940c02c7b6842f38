import * as fc from "fast-check";

/**
 * Property tests draw the same examples each time, so that a run tells of the change and not of luck.
 * `FC_SEED=$RANDOM FC_TIMES=20 npx vitest run src/core` looks further.
 */
const times = Number(process.env.FC_TIMES ?? 1);
fc.configureGlobal({ seed: Number(process.env.FC_SEED ?? 20_261_124), numRuns: 100 * times });
