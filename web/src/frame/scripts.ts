const tryAgain = 3000;
const mostTries = 2;

/**
 * Fetches a script; without a connection again and again until there is one. One that is not
 * there although the server answers is of a build that is gone: the page of the newer one is opened.
 */
export async function sure<T>(script: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await script();
    } catch {
      const answers = await fetch('/healthz').then(
        (a) => a.ok,
        () => false,
      );
      if (answers && tries >= mostTries) window.location.reload();
      await new Promise((again) => window.setTimeout(again, tryAgain));
    }
  }
}
