// Prints "PASSED FAILED" of a vitest or playwright JSON report.
import { readFileSync } from 'node:fs';

const report = JSON.parse(readFileSync(process.argv[2], 'utf8'));
if (report.stats)
  console.log(
    report.stats.expected,
    report.stats.unexpected + report.stats.flaky + (report.errors?.length ?? 0),
  );
else
  console.log(
    report.numPassedTests,
    report.numFailedTests + (report.numFailedTestSuites > 0 && report.numFailedTests === 0 ? 1 : 0),
  );
