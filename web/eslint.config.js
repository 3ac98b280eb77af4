import imports from 'eslint-plugin-import-x';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

export default ts.config({ ignores: ['src/api/schema.d.ts'] }, ...ts.configs.recommendedTypeChecked, imports.flatConfigs.typescript, {
  languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
  plugins: { 'react-hooks': hooks, 'import-x': imports },
  rules: {
    'react-hooks/rules-of-hooks': 'error',
    'react-hooks/exhaustive-deps': 'error',
    // A script that is fetched when it is needed is no circle.
    'import-x/no-cycle': ['error', { allowUnsafeDynamicCyclicDependency: true }],
  },
});
