/** The one way to ask the core: one request under way, the newest question waits, the ones between are dropped. */

/**
 * A function that asks, and what it is waiting for. `ask` takes a question and says what came of it; `answered` hears of
 * each answer in turn. A question put while one is under way takes the place of the one that waits.
 */
export function latest<Question>(ask: (question: Question) => Promise<void>) {
  let waiting: { question: Question } | null = null;
  let busy: Promise<void> | null = null;

  async function run(): Promise<void> {
    while (waiting) {
      const { question } = waiting;
      waiting = null;
      await ask(question);
    }
    busy = null;
  }
  return {
    put(question: Question): void {
      waiting = { question };
      busy ??= run();
    },
    /** Ask this again, unless something newer waits already. */
    again(question: Question): void {
      waiting ??= { question };
    },
    drop(): void {
      waiting = null;
    },
    /** Until everything that was put has been answered. */
    idle: async (): Promise<void> => {
      await busy;
    },
  };
}

export const later = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
