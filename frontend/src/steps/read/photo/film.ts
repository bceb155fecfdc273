// A film in single pictures: the browser decodes it, so the program need not, and only small pictures are sent.
const MOST_PICTURES = 240;
const EACH_SECOND = 5; // pictures: what moves under the ice moves no faster
const LONGER_SIDE = 960; // px
const QUALITY = 0.9;
const LONGEST_S = 7200;

/** When the next thing of a kind happens to a film; an error when it cannot be decoded. */
function next(film: HTMLVideoElement, what: "loadedmetadata" | "seeked"): Promise<void> {
  return new Promise((resolve, reject) => {
    const told = () => {
      film.removeEventListener("error", wrong);
      resolve();
    };
    const wrong = () => {
      film.removeEventListener(what, told);
      reject(new Error("cannot be decoded"));
    };
    film.addEventListener(what, told, { once: true });
    film.addEventListener("error", wrong, { once: true });
  });
}

async function at(film: HTMLVideoElement, seconds: number) {
  const there = next(film, "seeked");
  film.currentTime = seconds;
  await there;
}

/** How long it is [s]: a film that was written as it ran does not say so before its end has been looked for. */
async function lengthOf(film: HTMLVideoElement): Promise<number> {
  if (!Number.isFinite(film.duration)) await at(film, LONGEST_S);
  return Number.isFinite(film.duration) ? film.duration : film.currentTime;
}

/** A film's pictures as files, the oldest first, and from the first to the last [s]; `told` hears how far it is. */
export async function picturesOf(
  file: File,
  told: (share: number) => void,
): Promise<{ files: File[]; seconds: number }> {
  const film = document.createElement("video");
  film.muted = true;
  film.preload = "auto";
  film.src = URL.createObjectURL(file);
  try {
    await next(film, "loadedmetadata");
    const whole = await lengthOf(film);
    const count = Math.min(Math.max(Math.round(whole * EACH_SECOND), 2), MOST_PICTURES);
    const size = Math.min(LONGER_SIDE / Math.max(film.videoWidth, film.videoHeight), 1);
    const paper = new OffscreenCanvas(
      Math.round(film.videoWidth * size),
      Math.round(film.videoHeight * size),
    );
    const files: File[] = [];
    for (let k = 0; k < count; k++) {
      // From the middle of each part of it: at its very ends some films show nothing.
      await at(film, ((k + 0.5) * whole) / count);
      paper.getContext("2d", { alpha: false })!.drawImage(film, 0, 0, paper.width, paper.height);
      const picture = await paper.convertToBlob({ type: "image/jpeg", quality: QUALITY });
      files.push(new File([picture], `${k}.jpg`, { lastModified: file.lastModified }));
      told((k + 1) / count);
    }
    return { files, seconds: (whole * (count - 1)) / count };
  } catch {
    throw new Error(
      `${file.name} is no film that can be played here: film it as MP4 or WebM, or send photos.`,
    );
  } finally {
    URL.revokeObjectURL(film.src);
  }
}
