// Talking to the program: JSON out, JSON in, and every failure as a Problem with a sentence to show.
import type { ProblemDocument } from "./types";

export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly fields: Record<string, string> = {},
  ) {
    super(detail);
  }
}

/** What went wrong, in words. */
export const words = (problem: unknown) => (problem instanceof Error ? problem.message : String(problem));

/** `ready` bodies are JSON text already, sent as they are. */
export async function request<T>(method: string, path: string, body?: unknown, ready = false): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      headers: body === undefined ? {} : { "Content-Type": "application/json" },
      body: body === undefined ? undefined : ready ? (body as string) : JSON.stringify(body),
    });
  } catch {
    throw new Problem(0, "The program does not answer. Is it still running?");
  }
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    const document = answer as ProblemDocument | null;
    const fields = Object.fromEntries((document?.errors ?? []).map((one) => [one.field, one.message]));
    throw new Problem(
      response.status,
      document?.detail ?? `The program answered ${response.status}.`,
      fields,
    );
  }
  return answer as T;
}

export const get = <T>(path: string) => request<T>("GET", path);
export const post = <T>(path: string, body: unknown, ready = false) => request<T>("POST", path, body, ready);
export const put = <T>(path: string, body: unknown) => request<T>("PUT", path, body);
export const remove = (path: string) => request<void>("DELETE", path);
