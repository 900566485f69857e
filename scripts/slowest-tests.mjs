#!/usr/bin/env node
// Lists the slowest tests of a run. Usage: scripts/slowest-tests FILE.trx… (as the runner's trx logger writes them)
import { readFileSync } from 'node:fs';

const most = 10;
const seconds = (text) => text.split(':').reduce((sum, part) => sum * 60 + Number(part), 0);
const attribute = (element, name) => new RegExp(`\\b${name}="([^"]*)"`).exec(element)?.[1] ?? '';

const tests = process.argv
  .slice(2)
  .flatMap((file) => readFileSync(file, 'utf8').match(/<UnitTestResult\s[^>]*>/g) ?? [])
  .map((element) => ({ name: attribute(element, 'testName').replaceAll('&quot;', '"'), took: seconds(attribute(element, 'duration') || '0') }))
  .sort((a, b) => b.took - a.took)
  .slice(0, most);

if (tests.length > 0) {
  console.log('The slowest tests:');
  for (const { name, took } of tests) {
    console.log(`  ${took.toFixed(1).padStart(6)} s  ${name.length > 110 ? `${name.slice(0, 109)}…` : name}`);
  }
}
