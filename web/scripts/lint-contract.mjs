// Holds the contract to the recommended rules of a linter: an error of theirs fails.
import { createConfig, formatProblems, lint } from '@redocly/openapi-core';

const config = await createConfig({ extends: ['recommended'] });
const problems = await lint({ ref: process.argv[2] ?? '../api/openapi.yaml', config });
const errors = problems.filter((p) => p.severity === 'error');
if (errors.length) {
  formatProblems(errors, { format: 'stylish', totals: { errors: errors.length, warnings: 0, ignored: 0 } });
  process.exit(1);
}
console.log(`the contract: no error, ${problems.length} remarks`);
