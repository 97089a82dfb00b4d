import { defineConfig } from "@playwright/test";

// Started by `cargo test`, which starts the server and says where it is.
export default defineConfig({
  testDir: "specs",
  workers: 1,
  // A busy machine may stall a video once; a fault of ours fails both times.
  retries: process.env.CI ? 1 : 0,
  timeout: 120_000,
  // A busy machine shows what it is asked for late.
  expect: { timeout: 15_000 },
  reporter: [["list"]],
  use: {
    baseURL: process.env.UMLAUF_URL,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
