import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

const PLACES = ["yard", "instrument", "record", "bench", "stand"];

// Arrows point down: app → places → ui → sheet and store → core → api. Places know nothing of one another.
const ofPlaces = PLACES.map((place) => ({
  files: [`src/places/${place}/**`],
  ignores: ["**/*.test.*"],
  rules: { "no-restricted-imports": ["error", { patterns: [{ group: PLACES.filter((one) => one !== place).map((one) => `../${one}/*`), message: "Places share through ui, sheet and store." }] }] },
}));
const below = {
  files: ["src/ui/**", "src/sheet/**", "src/store/**", "src/core/**", "src/api/**"],
  ignores: ["**/*.test.*"],
  rules: { "no-restricted-imports": ["error", { patterns: [{ group: ["**/places/*"], message: "Nothing below the places knows them." }] }] },
};

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts", "dist"] },
  ...tseslint.configs.strict,
  { plugins: { "react-hooks": hooks }, rules: { ...hooks.configs.recommended.rules } },
  ...ofPlaces,
  below,
);
