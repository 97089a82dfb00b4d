import { beforeEach, describe, expect, it, vi } from "vitest";

type Hooks = {
  onRequest: (of: { request: Request }) => Request;
  onResponse: (of: { response: Response }) => Response;
};

describe("the yard that a page was made of", () => {
  beforeEach(() => vi.resetModules());

  it("is the one that answered first, and is named in every request from then on", async () => {
    const { naming, ownYard, ownYardHeader, YARD } = await import("./own-yard");
    const hooks = naming as unknown as Hooks;
    const asked = () =>
      hooks.onRequest({ request: new Request("http://yard/api") }).headers.get(YARD);
    const answers = (yard: string) =>
      hooks.onResponse({ response: new Response(null, { headers: { [YARD]: yard } }) });
    expect([asked(), ownYard(), ownYardHeader()]).toEqual([null, null, {}]);
    hooks.onResponse({ response: new Response(null) });
    expect(ownYard()).toBeNull();
    answers("kiebitz");
    answers("distel");
    expect([asked(), ownYard()]).toEqual(["kiebitz", "kiebitz"]);
    expect(ownYardHeader()).toEqual({ [YARD]: "kiebitz" });
  });
});
