// Every string of the web that a person may read, held against the words that must not come back, and against length.
import { readFileSync, readdirSync } from "node:fs";
import { join, resolve } from "node:path";
import ts from "typescript";
import { expect, it } from "vitest";

const SOURCE = resolve(__dirname);
const OLD = new RegExp(
  `\\b(${(JSON.parse(readFileSync(resolve(SOURCE, "../../tests/old_words.json"), "utf8")) as string[]).join("|")})(?!\\w)`,
  "i",
);
const MAX_WORDS = 30;
/** Attributes that menus, dialogs and the palette set themselves. */
const OF_LIBRARIES = ["state", "highlighted", "selected"];

const files = (readdirSync(SOURCE, { recursive: true }) as string[]).filter(
  (name) => /\.tsx?$/.test(name) && !/\.test\.|\.d\.ts$/.test(name),
);

/** Text between tags and strings with a blank in them; what is filled in counts as one word. */
function shown(name: string): { at: string; text: string }[] {
  const source = ts.createSourceFile(
    name,
    readFileSync(join(SOURCE, name), "utf8"),
    ts.ScriptTarget.Latest,
    true,
    name.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found: { at: string; text: string }[] = [];
  const visit = (node: ts.Node) => {
    const attribute = ts.isJsxAttribute(node) ? node.name.getText() : "";
    if (attribute === "className" || ts.isImportDeclaration(node)) return;
    const text =
      ts.isJsxText(node) || ts.isStringLiteralLike(node)
        ? node.text
        : ts.isTemplateExpression(node)
          ? node.head.text + node.templateSpans.map((span) => `0${span.literal.text}`).join("")
          : "";
    if (text.trim().includes(" ") || (ts.isJsxText(node) && text.trim()))
      found.push({
        at: `${name}:${source.getLineAndCharacterOfPosition(node.getStart()).line + 1}`,
        text: text.replace(/\s+/g, " ").trim(),
      });
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

const all = files.flatMap(shown);

it("reads every part of the web", () => {
  expect(all.length).toBeGreaterThan(600);
});

it("says none of the old words", () => {
  expect(all.filter(({ text }) => OLD.test(text)).map(({ at, text }) => `${at}: ${text}`)).toEqual([]);
});

it("has no sentence longer than thirty words", () => {
  const sentences = all.flatMap(({ at, text }) => text.split(/(?<=[.!?])\s/).map((sentence) => ({ at, sentence })));
  const long = sentences.filter(({ sentence }) => sentence.split(" ").length > MAX_WORDS && /^[A-Z]/.test(sentence));
  expect(long.map(({ at, sentence }) => `${at}: ${sentence}`)).toEqual([]);
});

it("gives no style to an attribute that nothing has", () => {
  const code = files.map((name) => readFileSync(join(SOURCE, name), "utf8")).join("\n");
  const styles = [
    ...readFileSync(join(SOURCE, "app/theme.css"), "utf8").matchAll(/\[(data-[a-z-]+)/g),
    ...code.matchAll(/(?<=[\s"`])(?:[a-z-]+:)*data-\[([a-z-]+)/g),
  ].map((match) => (match[1] as string).replace(/^data-/, ""));
  const set = new Set(
    [...code.matchAll(/(?<!\[)\bdata-([a-z-]+)/g), ...code.matchAll(/dataset\.([a-z]+)/g)].map(
      (match) => match[1] as string,
    ),
  );
  expect(styles.length).toBeGreaterThan(4);
  expect([...new Set(styles)].filter((name) => !set.has(name) && !OF_LIBRARIES.includes(name))).toEqual([]);
});
