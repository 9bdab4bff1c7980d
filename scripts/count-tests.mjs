// Prints "PASSED FAILED" of a vitest or playwright JSON report; what failed, and how, is added to the file named second.
import { appendFileSync, readFileSync } from 'node:fs';

const LINES_SHOWN = 15;
const [at, failures] = process.argv.slice(2);
const report = JSON.parse(readFileSync(at, 'utf8'));

const counts = report.stats
  ? [report.stats.expected, report.stats.unexpected + report.stats.flaky + (report.errors?.length ?? 0)]
  : [
      report.numPassedTests,
      report.numFailedTests + (report.numFailedTestSuites > 0 && report.numFailedTests === 0 ? 1 : 0),
    ];
const told = report.stats
  ? [...report.suites.flatMap(ofSuite), ...report.errors]
  : report.testResults.flatMap(ofFile);
if (failures)
  appendFileSync(
    failures,
    told.map(f => `${f.name ?? 'outside a test'}\n${shortened(f.message ?? '')}\n`).join(''),
  );
console.log(...counts);

function ofFile(file) {
  const failed = file.assertionResults
    .filter(t => t.status === 'failed')
    .map(t => ({ name: `${file.name} > ${t.fullName}`, message: t.failureMessages.join('\n') }));
  return failed.length > 0 || file.status === 'passed'
    ? failed
    : [{ name: file.name, message: file.message }];
}

function ofSuite(suite) {
  const here = (suite.specs ?? [])
    .filter(spec => !spec.ok)
    .map(spec => ({
      name: `${spec.file}:${spec.line} > ${spec.title}`,
      message: spec.tests.flatMap(t => t.results.flatMap(r => r.errors.map(e => e.message))).join('\n'),
    }));
  return [...here, ...(suite.suites ?? []).flatMap(ofSuite)];
}

function shortened(message) {
  return message
    .split('\n')
    .slice(0, LINES_SHOWN)
    .map(line => `    ${line}`)
    .join('\n');
}
