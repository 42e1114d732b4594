// What the scripts tell people: plain sentences, and an end with a sentence instead of a stack.

export const say = (text) => process.stdout.write(`${text}\n`);

/** An expected failure: told in one sentence, without a stack. */
export class PlainError extends Error {}

/** Runs a script's main function; expected failures end it with exit code 1 and their sentence. */
export async function runMain(main) {
  try {
    await main();
  } catch (error) {
    if (error instanceof PlainError) say(error.message);
    else if (error?.code === 'ENOSPC')
      say('The disk is full. Free some space and start again; nothing was lost.');
    else console.error(error);
    process.exitCode = 1;
  }
}
