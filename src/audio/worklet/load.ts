/** Where the audio thread's program is; bundled beside the pages. */
const PROGRAM = "/audio-thread.js";

let fetched: Promise<string> | null = null;
const loaded = new WeakMap<BaseAudioContext, Promise<void>>();

/** Fetches the program ahead of time, so that playing needs no server later. One that failed is fetched anew. */
export function fetchAudioThread(): Promise<string> {
  fetched ??= program();
  fetched.catch(() => {
    fetched = null;
  });
  return fetched;
}

async function program(): Promise<string> {
  const answer = await fetch(PROGRAM);
  if (!answer.ok) throw new Error(`the server answered ${answer.status}`);
  const source = await answer.blob();
  return URL.createObjectURL(new Blob([source], { type: "text/javascript" }));
}

/** Loads the program into an audio context, once; one that failed is loaded anew. */
export function loadAudioThread(context: BaseAudioContext): Promise<void> {
  let work = loaded.get(context);
  if (!work) {
    work = fetchAudioThread().then((url) => context.audioWorklet.addModule(url));
    loaded.set(context, work);
    work.catch(() => loaded.delete(context));
  }
  return work;
}
