// Fails when the generated types no longer match openapi.json (`make contract` writes them).
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const fresh = join(mkdtempSync(join(tmpdir(), "naveta-")), "schema.d.ts");
execFileSync("npx", ["openapi-typescript", "openapi.json", "-o", fresh], { stdio: "ignore" });
if (readFileSync(fresh, "utf8") !== readFileSync("src/api/schema.d.ts", "utf8")) {
  console.error("web/src/api/schema.d.ts is stale: run `make contract`.");
  process.exit(1);
}
