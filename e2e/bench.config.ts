import base from "./playwright.config";

// Measurements, run by `make bench`.
export default { ...base, testDir: "bench" };
