import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schema = components["schemas"];

export const api = createClient<paths>({ baseUrl: "" });

/** A request whose address is put together, as stations have theirs from the list of parts; or whose body is a file. */
export async function ask<T>(
  method: "POST" | "PUT" | "DELETE",
  path: string,
  body?: unknown,
): Promise<{ data?: T; error?: unknown; response: Response }> {
  const file = body instanceof Blob;
  const response = await fetch(path, {
    method,
    headers: { "content-type": file ? body.type || "application/octet-stream" : "application/json" },
    body: file ? body : body === undefined ? null : JSON.stringify(body),
  });
  const text = await response.text();
  const content = (text ? JSON.parse(text) : undefined) as T | undefined;
  return response.ok ? { data: content, response } : { error: content, response };
}

/** Problem details as the server sends them. */
export interface Problem {
  status?: number | null;
  title?: string | null;
  errors?: Record<string, string[]>;
  stored?: unknown;
  /** It is only unusual: asked back once. */
  ask?: boolean;
  /** A visit that the stove has open already. */
  openVisit?: string;
  /** A word of another step that what was sent would take back. */
  covered?: string;
  /** Households that may be the same. */
  twins?: { id: string; name: string; street: string; place: string }[];
}

/** What became of a request: data, a problem of the server's, or no server at all. */
export type Reply<T> =
  { kind: "ok"; data: T } | { kind: "problem"; status: number; problem: Problem } | { kind: "away"; sentence: string };

const away = "The server does not answer. What you typed is kept here.";
const signedOut = "You were signed out. What you typed is kept here.";

/** Called when the server no longer knows who asks; the session sets it. */
export const access = { lost: () => {} };

/** Waits for a request and sorts its outcome; a signed-out session leads to the sign-in page. */
export async function reply<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<Reply<T>> {
  try {
    const { data, error, response } = await request;
    if (response.ok) return { kind: "ok", data: data as T };
    // A wrong password at the door is no session that ended.
    if (response.status === 401 && new URL(response.url).pathname !== "/api/session") {
      access.lost();
      return { kind: "away", sentence: signedOut };
    }
    if (response.status >= 502) return { kind: "away", sentence: away };
    const problem = (typeof error === "object" && error ? error : { title: response.statusText }) as Problem;
    return { kind: "problem", status: response.status, problem };
  } catch {
    return { kind: "away", sentence: away };
  }
}

const keptPages = 12;

/** Reads a page's document; without a server it is what this browser saw last, if it ever did. */
export async function page<T>(
  key: string,
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<Reply<T>> {
  const answer = await reply<T>(request);
  const name = `grate.page.${key}`;
  if (answer.kind === "away") {
    const kept = sessionStorage.getItem(name);
    return kept ? { kind: "ok", data: JSON.parse(kept) as T } : answer;
  }
  if (answer.kind === "ok") {
    const others = Object.keys(sessionStorage).filter((k) => k.startsWith("grate.page.") && k !== name);
    for (const old of others.slice(0, Math.max(0, others.length - keptPages + 1))) sessionStorage.removeItem(old);
    try {
      sessionStorage.setItem(name, JSON.stringify(answer.data));
    } catch {
      // A full store keeps fewer pages.
      sessionStorage.removeItem(name);
    }
  }
  return answer;
}

/** The one sentence a page says when it cannot be shown; empty when it can. */
export function failure(answer: Reply<unknown>): string {
  return refusals(answer).join(" ");
}

/** What a reply has to say against a request; nothing where it went well. */
export function refusals(answer: Reply<unknown>): string[] {
  return answer.kind === "problem" ? sentences(answer.problem) : answer.kind === "away" ? [answer.sentence] : [];
}

/** What a reply has to say against single fields. */
export const byField = (answer: Reply<unknown>): Record<string, string[]> =>
  answer.kind === "problem" ? (answer.problem.errors ?? {}) : {};

/** What it says above them, where the fields have their own sentences. */
export const headline = (answer: Reply<unknown>): string =>
  answer.kind === "away" ? answer.sentence : answer.kind === "problem" ? (answer.problem.title ?? "") : "";

/** Every sentence of a problem. */
export function sentences(problem: Problem): string[] {
  const byField = Object.values(problem.errors ?? {}).flat();
  return byField.length ? byField : [problem.title ?? "That did not work."];
}
