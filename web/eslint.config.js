import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import { globalIgnores } from "eslint/config";
import typescript from "typescript-eslint";

export default typescript.config(
  globalIgnores(["src/api/generated/**", "dist/**"]),
  js.configs.recommended,
  typescript.configs.strict,
  hooks.configs.flat.recommended,
  {
    rules: {
      // A checked index or a query that the surrounding markup guarantees.
      "@typescript-eslint/no-non-null-assertion": "off",
      "no-restricted-syntax": [
        "error",
        {
          selector: "Literal[value=/#[0-9a-fA-F]{3,8}$/], Literal[value=/rgba?\\(/]",
          message: "Colours stand in tokens.css only.",
        },
      ],
    },
  },
);
