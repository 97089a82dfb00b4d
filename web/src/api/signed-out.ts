import type { Middleware } from "openapi-fetch";

const asked = new Set<() => void>();

/** Hears when the server asks to sign in; gives what ends that. */
export function onSignInAsked(hear: () => void): () => void {
  asked.add(hear);
  return () => void asked.delete(hear);
}

/** Says so when an answer asks to sign in: the page is left as it is, and somebody signs in over it. */
export const noticing: Middleware = {
  onResponse({ request, response }) {
    if (response.status === 401 && !request.url.endsWith("/api/sign-in")) {
      for (const hear of asked) hear();
    }
    return response;
  },
};
