// Talking to the program: a client typed from its own OpenAPI document, and every failure as a Problem to show.
import createClient from "openapi-fetch";
import type { paths } from "./schema";
import type { ProblemDocument, Whole } from "./types";

export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly fields: Record<string, string> = {},
    /** What is kept now, when what was changed has been changed elsewhere since. */
    readonly now: Record<string, unknown> | null = null,
  ) {
    super(detail);
  }
}

/** What went wrong, in words. */
export const words = (problem: unknown) => (problem instanceof Error ? problem.message : String(problem));

const TRIES = 4;

/** A program that is busy says when to come back: that is waited for, a few times, before anyone is told. */
async function patient(request: Request): Promise<Response> {
  for (let tried = 1; ; tried++) {
    const response = await fetch(request.clone());
    const seconds = Number(response.headers.get("Retry-After"));
    if (response.status !== 503 || !seconds || tried >= TRIES) return response;
    await new Promise((done) => setTimeout(done, 1000 * seconds));
  }
}

export const api = createClient<paths>({ fetch: patient });

function problemOf(response: Response, error: unknown): Problem {
  const document = error as (Partial<ProblemDocument> & { now?: Record<string, unknown> }) | undefined;
  const fields = Object.fromEntries((document?.errors ?? []).map((one) => [one.field, one.message]));
  const said = document?.detail ?? `The program answered ${response.status}.`;
  return new Problem(response.status, said, fields, document?.now ?? null);
}

/** What a call answers, or a Problem thrown. What the program sends has every field. */
export async function ok<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<Whole<NonNullable<T>>> {
  let answer;
  try {
    answer = await call;
  } catch {
    throw new Problem(0, "The program does not answer. Is it still running?");
  }
  if (!answer.response.ok) throw problemOf(answer.response, answer.error);
  return answer.data as Whole<NonNullable<T>>;
}

type FilePath = "/api/gear/file" | "/api/scenes/file" | "/api/drills/rounds/file";
type Taken<Path extends FilePath> =
  paths[Path]["post"]["responses"] extends Record<201, { content: { "application/json": infer Answer } }>
    ? Answer
    : never;

/** Send a JSON file as it is: what is wrong in it is the program's to say. */
export async function sendFile<Path extends FilePath>(
  path: Path,
  text: string,
  query: Record<string, string> = {},
): Promise<Whole<Taken<Path>>> {
  const response = await patient(
    new Request(`${path}?${new URLSearchParams(query)}`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: text,
    }),
  );
  const answer: unknown = await response.json().catch(() => undefined);
  if (!response.ok) throw problemOf(response, answer);
  return answer as Whole<Taken<Path>>;
}

/** The version that a change is of, as the program wants it. */
export const ifMatch = (version: number) => ({ "If-Match": `"${version}"` });
