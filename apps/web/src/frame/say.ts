/** What was done, said in a corner for a while: with a button where it can be taken back. */

interface Button {
  label: string;
  onClick: () => void;
}

/** The library comes with the first sentence or soon after the first screen, not before it. */
const corner = async () => (await import('sonner')).toast;

export const say = async (sentence: string, action?: Button): Promise<void> =>
  void (await corner())(sentence, action && { action });

/** Says that something did not go, and why. */
export const sayRefused = async (sentence: string): Promise<void> =>
  void (await corner()).error(sentence);
