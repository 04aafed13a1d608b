/** What the page still waits for by the clock: a test waits until that is nothing, and not for a time. */

/** Longer ones are asked again only while a server is away: nothing ends them but the server. */
const SHORT_MS = 900;

const real = { set: globalThis.setTimeout, clear: globalThis.clearTimeout };
const waiting = new Set<unknown>();

/** A pause that is not itself waited for. */
export const tick = (ms = 0) => new Promise<void>((resolve) => real.set(resolve, ms));

/** Whether the page has set itself nothing more to do soon. */
export const atRest = (): boolean => waiting.size === 0;

/** Count the timers and frames that the page asks for; to be called once, before anything is shown. */
export function watchTimers(): void {
  const watched = ((run: (...given: unknown[]) => void, ms = 0, ...given: unknown[]) => {
    const timer = real.set(() => {
      waiting.delete(timer);
      run(...given);
    }, ms);
    if (ms <= SHORT_MS) waiting.add(timer);
    return timer;
  }) as unknown as typeof setTimeout;
  globalThis.setTimeout = watched;
  globalThis.clearTimeout = (timer) => {
    waiting.delete(timer);
    real.clear(timer);
  };
  if (typeof globalThis.requestAnimationFrame === "function") watchFrames();
}

/** The next frame is waited for too: focus is put back in one once a dialog has gone. */
function watchFrames(): void {
  const [ask, cancel] = [globalThis.requestAnimationFrame, globalThis.cancelAnimationFrame];
  globalThis.requestAnimationFrame = (draw) => {
    const frame = ask((at) => {
      waiting.delete(`frame ${frame}`);
      draw(at);
    });
    waiting.add(`frame ${frame}`);
    return frame;
  };
  globalThis.cancelAnimationFrame = (frame) => {
    waiting.delete(`frame ${frame}`);
    cancel(frame);
  };
}
