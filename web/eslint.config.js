import js from "@eslint/js";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.ts"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  reactHooks.configs.flat["recommended-latest"],
  {
    rules: {
      "@typescript-eslint/no-non-null-assertion": "off",
      "no-restricted-syntax": ["error", { selector: "JSXAttribute[name.name='style'] Literal[value=/#[0-9a-fA-F]{3}/]", message: "Colours come from the theme." }],
    },
  },
);
