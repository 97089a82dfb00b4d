import type { Middleware } from "openapi-fetch";

/** The header by which an answer names its yard, and this page the yard it was made of. */
export const YARD = "umlauf-yard";

let own: string | null = null;

/** The yard that this page was made of: the one that answered first. */
export const ownYard = (): string | null => own;

let person = "";

/** Who sits here: what is not saved is kept for them, and sent by nobody else. */
export const ownPerson = (): string => person;

/** Notes who sits here, once; another person's page is loaded anew. */
export function satDown(name: string): void {
  person ||= name;
}

/** Says which yard a request is for, so that no other one takes it. */
export const naming: Middleware = {
  onRequest({ request }) {
    if (own !== null) request.headers.set(YARD, own);
    return request;
  },
  onResponse({ response }) {
    own ??= response.headers.get(YARD);
    return response;
  },
};

/** The same for what is not sent by the client. */
export const ownYardHeader = (): Record<string, string> => (own === null ? {} : { [YARD]: own });
