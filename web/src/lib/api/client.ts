import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schema = components["schemas"];

export const api = createClient<paths>({ baseUrl: "" });

/** Problem details as the server sends them. */
export interface Problem {
  status?: number | null;
  title?: string | null;
  errors?: Record<string, string[]>;
  stored?: unknown;
}

/** What became of a request: data, a problem of the server's, or no server at all. */
export type Reply<T> =
  { kind: "ok"; data: T } | { kind: "problem"; status: number; problem: Problem } | { kind: "away"; sentence: string };

const away = "The server does not answer. What you typed is kept here.";

/** Waits for a request and sorts its outcome; a signed-out session leads to the sign-in page. */
export async function reply<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<Reply<T>> {
  try {
    const { data, error, response } = await request;
    if (response.ok) return { kind: "ok", data: data as T };
    if (response.status >= 502) return { kind: "away", sentence: away };
    const problem = (typeof error === "object" && error ? error : { title: response.statusText }) as Problem;
    return { kind: "problem", status: response.status, problem };
  } catch {
    return { kind: "away", sentence: away };
  }
}

/** What a reply has to say against a request; nothing where it went well. */
export function refusals(answer: Reply<unknown>): string[] {
  return answer.kind === "problem" ? sentences(answer.problem) : answer.kind === "away" ? [answer.sentence] : [];
}

/** Every sentence of a problem. */
export function sentences(problem: Problem): string[] {
  const byField = Object.values(problem.errors ?? {}).flat();
  return byField.length ? byField : [problem.title ?? "That did not work."];
}
