// What a page needs is written down at build time, by its address: the server puts it into the page's head, so that a
// browser fetches the place's own script and its figures while the program itself is still on its way.
import type { Plugin, Rollup } from "vite";

/** `data`: what the page asks the server for first; `$1` is what the address names. */
type Ahead = { path: string; feature: string; data: string[] };

const PAGES: Ahead[] = [
  { path: "^/(?:today|fleet)?$", feature: "", data: ["/api/fleet", "/api/jobs"] },
  { path: "^/instruments/([^/]+)$", feature: "src/features/instrument/index.ts", data: ["/api/instruments/$1"] },
  { path: "^/bench$", feature: "src/features/checks/Bench.tsx", data: [] },
  { path: "^/plan$", feature: "src/features/plan/index.ts", data: [] },
  { path: "^/ledger$", feature: "src/features/ledger/index.ts", data: [] },
  { path: "^/records/([^/]+)$", feature: "src/features/records/index.ts", data: ["/api/records/$1"] },
  { path: "^/set-up$", feature: "src/features/setup/index.ts", data: [] },
  { path: "^/practice$", feature: "src/features/practice/index.ts", data: [] },
  { path: "^/settings$", feature: "src/features/settings/index.ts", data: [] },
];

function* withImports(chunk: Rollup.OutputChunk, bundle: Rollup.OutputBundle, seen: Set<string>): Generator<string> {
  if (seen.has(chunk.fileName)) return;
  seen.add(chunk.fileName);
  yield chunk.fileName;
  for (const name of chunk.imports) {
    const next = bundle[name];
    if (next?.type === "chunk") yield* withImports(next, bundle, seen);
  }
}

/** Writes `ahead.json` beside the page: for each address its scripts, without those every page begins with. */
export function ahead(): Plugin {
  return {
    name: "ahead",
    apply: "build",
    generateBundle(_, bundle) {
      const chunks = Object.values(bundle).filter((each) => each.type === "chunk");
      const seen = new Set<string>();
      for (const entry of chunks.filter((chunk) => chunk.isEntry))
        for (const _file of withImports(entry, bundle, seen));
      const pages = PAGES.map(({ path, feature, data }) => {
        const own = feature ? chunks.find((chunk) => chunk.facadeModuleId?.endsWith(feature)) : undefined;
        if (feature && !own && !chunks.some((chunk) => chunk.moduleIds.some((id) => id.endsWith(feature))))
          this.error(`no script for ${feature}`);
        return {
          path,
          scripts: own ? [...withImports(own, bundle, new Set(seen))].map((file) => `/${file}`) : [],
          data,
        };
      });
      this.emitFile({ type: "asset", fileName: "ahead.json", source: JSON.stringify(pages) });
    },
  };
}
