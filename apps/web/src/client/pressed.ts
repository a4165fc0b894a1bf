/**
 * While a pointer is pressed nothing that came from the server alters the screen: what stands below an edit that closes
 * would move away between press and release, and the click would be lost.
 */

/** A press that lasts longer is no click; what came meanwhile is shown. */
const LONGEST_MS = 1000;

let release: (() => void) | undefined;
let released: Promise<void> | undefined;

function pressed(): void {
  release?.();
  let timer: ReturnType<typeof setTimeout> | undefined = undefined;
  const until = new Promise<void>((resolve) => {
    release = () => {
      clearTimeout(timer);
      release = undefined;
      // The click that belongs to the release comes right after it.
      setTimeout(() => {
        if (released === until) released = undefined;
        resolve();
      });
    };
  });
  released = until;
  timer = setTimeout(release!, LONGEST_MS);
}

/** Watches the presses on a document; once, as the application begins. */
export function watchPresses(document: Pick<Document, 'addEventListener'>): void {
  document.addEventListener(
    'pointerdown',
    (event) => {
      if (event.button === 0) pressed();
    },
    { capture: true },
  );
  for (const end of ['pointerup', 'pointercancel']) {
    document.addEventListener(end, () => release?.(), { capture: true });
  }
}

/** Calls back when nothing is pressed: at once, or after the click. */
export function whenReleased(then: () => void): void {
  if (released) void released.then(() => whenReleased(then));
  else then();
}

/** @returns when nothing is pressed */
export const untilReleased = (): Promise<void> => new Promise(whenReleased);
