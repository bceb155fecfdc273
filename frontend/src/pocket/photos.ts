// Photos of a screen, kept in the phone until its notes are saved: small, as base64, by the note they belong to. What
// localStorage holds is too little for pictures, so they lie in IndexedDB.
const KEPT = "hollow-glint pocket photos";
const STORE = "photos";
const LONGER_SIDE = 1600; // px: a screen's cells are still some pixels wide
const QUALITY = 0.82;
export const MOST_PHOTOS = 30;

const done = <T>(request: IDBRequest<T>) =>
  new Promise<T>((resolve, reject) => {
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error ?? new Error("not kept"));
  });

function opened(): Promise<IDBDatabase> {
  const request = indexedDB.open(KEPT, 1);
  request.onupgradeneeded = () => request.result.createObjectStore(STORE);
  return done(request);
}

async function within<T>(
  mode: IDBTransactionMode,
  act: (store: IDBObjectStore) => IDBRequest<T>,
): Promise<T> {
  const database = await opened();
  try {
    return await done(act(database.transaction(STORE, mode).objectStore(STORE)));
  } finally {
    database.close();
  }
}

/** All that are kept, by their note's id. */
export async function allKept(): Promise<Record<string, string>> {
  const ids = (await within("readonly", (store) => store.getAllKeys())) as string[];
  const letters = (await within("readonly", (store) => store.getAll())) as string[];
  return Object.fromEntries(ids.map((id, k) => [id, letters[k]!]));
}

export const keep = (id: string, letters: string) => within("readwrite", (store) => store.put(letters, id));

export const letGo = (id: string) => within("readwrite", (store) => store.delete(id));

/** A photo made small, as the base64 of a JPEG that has nothing of the phone's in it but the picture. */
export async function made(file: File): Promise<string> {
  const picture = await createImageBitmap(file);
  const size = Math.min(LONGER_SIDE / Math.max(picture.width, picture.height), 1);
  const paper = new OffscreenCanvas(Math.round(picture.width * size), Math.round(picture.height * size));
  paper.getContext("2d", { alpha: false })!.drawImage(picture, 0, 0, paper.width, paper.height);
  const bytes = new Uint8Array(
    await (await paper.convertToBlob({ type: "image/jpeg", quality: QUALITY })).arrayBuffer(),
  );
  let letters = "";
  for (let at = 0; at < bytes.length; at += 0x8000) {
    letters += String.fromCharCode(...bytes.subarray(at, at + 0x8000));
  }
  return btoa(letters);
}
