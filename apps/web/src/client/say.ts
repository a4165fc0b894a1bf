/** What was done, said in a corner for a while: with a button where it can be taken back. */

interface Button {
  label: string;
  onClick: () => void;
}

/** The library comes soon after the first screen, not before it; where it does not come the log says the same. */
const corner = async () => {
  try {
    return (await import('sonner')).toast;
  } catch {
    return null;
  }
};

export const say = async (sentence: string, action?: Button): Promise<void> =>
  void (await corner())?.(sentence, action && { action });

/** Says that something did not go, and why. */
export const sayRefused = async (sentence: string): Promise<void> =>
  void (await corner())?.error(sentence);
