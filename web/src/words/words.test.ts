import ts from 'typescript';
import { expect, test } from 'vitest';
import { catalogue, files, locales, messages, parse } from '../../scripts/messages.mjs';
import { learn, localeNow, moment, msg, placeAt, say, speak } from './words';

const said = messages();
const args = (text: string) => (text.match(/\{\{\w+\}\}/g) ?? []).sort();

test('every message is in every catalogue with its arguments, and none is of a message that is gone', () => {
  expect(said.size).toBeGreaterThan(1000);
  for (const locale of locales) {
    const texts = catalogue(locale);
    expect(Object.keys(texts).sort(), `${locale}: node scripts/messages.mjs, and write what is new`).toEqual([...said.keys()].sort());
    for (const [message, text] of Object.entries(texts)) expect(args(text), `${locale}: ${message}`).toEqual(args(message));
  }
});

test('no word of another trade', () => {
  // either is spelt or said otherwise on that side of the ocean; each has some of its own
  const both = ['energis', 'earthed\\b', 'earth (electrode|lead)', 'aluminium', 'consumer unit', 'first fix', 'second fix', 'intake\\b'];
  both.push('main switch', 'network operator', 'the board\\b');
  const barred: Record<string, string[]> = {
    'en-US': [...both, 'colour', 'labelled', 'armoured', 'authoris', 'main fuse'],
    'en-CA': [...both, 'color', 'equipment grounding', 'the utility\\b'],
  };
  for (const locale of locales)
    for (const text of Object.values(catalogue(locale)))
      expect(text.replace(/\{\{\w+\}\}/g, '')).not.toMatch(new RegExp(`\\b(${barred[locale].join('|')})`, 'i'));
});

// Texts that look like a sentence and are none: styles and drawings, and what a browser is told.
const style = new RegExp(
  String.raw`\d(fr|px|%|vh|(rem|em|ch)\b)|(var|minmax|repeat|calc|rgba?)\(|solid|auto-f|translate|rotate|` +
    String.raw`@media|sans-serif|no-wrap|inset|input:not|button, input|input\[`,
);
const ids = [
  'first fix',
  'second fix',
  'list of lists',
  'numbers by name',
  'lists by name',
  'number or null',
  'cut at one end',
  'take out',
  'a.target',
  'tbody button',
];

test('no sentence of the interface stands outside the catalogue', () => {
  const outside: string[] = [];
  for (const file of files()) {
    const source = parse(file);
    const look = (n: ts.Node): void => {
      if (ts.isImportDeclaration(n) || ts.isTypeNode(n) || ts.isTypeAliasDeclaration(n) || ts.isInterfaceDeclaration(n)) return;
      if (ts.isCallExpression(n) && ts.isIdentifier(n.expression) && ['say', 'msg'].includes(n.expression.text)) {
        n.arguments.slice(1).forEach(look);
        return;
      }
      if (ts.isCallExpression(n) && /querySelector|closest/.test(n.expression.getText(source))) return;
      if (ts.isJsxText(n) && /[A-Za-z]{3,}/.test(n.text)) outside.push(`${file}: ${n.text.trim()}`);
      if (ts.isStringLiteralLike(n) && /[A-Za-z’]{2,}[,.:;)]? [(“A-Za-z]{2,}/.test(n.text) && !style.test(n.text) && !ids.includes(n.text))
        outside.push(`${file}: ${n.text}`);
      ts.forEachChild(n, look);
    };
    look(source);
  }
  expect(outside).toEqual([]);
});

test('each message is given what it names', () => {
  const wrong: string[] = [];
  for (const file of files()) {
    const source = parse(file);
    const look = (n: ts.Node): void => {
      if (ts.isCallExpression(n) && ts.isIdentifier(n.expression) && n.expression.text === 'say' && n.arguments[0]) {
        const given = n.arguments[1];
        const keys = given && ts.isObjectLiteralExpression(given) ? given.properties.map((p) => p.name?.getText(source) ?? '') : [];
        const named = args(n.arguments[0].getText(source));
        if (named.some((a) => !keys.includes(a.replace(/[{}]/g, '')))) wrong.push(`${file}: ${n.getText(source)}`);
      }
      ts.forEachChild(n, look);
    };
    look(source);
  }
  expect(wrong).toEqual([]);
});

test('what is said follows the practice, with arguments, and falls back to British English', async () => {
  await learn('en-US');
  await learn('en-CA');
  expect(say(msg('First fix'))).toBe('First fix');
  speak('en-US');
  expect(localeNow()).toBe('en-US');
  expect(say('First fix')).toBe('Rough-in');
  expect(say('Remedial action: {{mend}}.', { mend: '<b>' })).toBe('Corrective action: <b>.');
  expect(say('nobody has written this down: {{count}}', { count: 2 })).toBe('nobody has written this down: 2');
  speak('en-CA');
  expect(say('Network operator')).toBe('Supply authority');
  speak('en-GB');
  expect(say('Network operator')).toBe('Network operator');
});

test('a moment is written as the company does, by its clock', () => {
  placeAt('en-GB', 'UTC');
  expect(moment('2026-03-04T22:05:00Z')).toBe('4 Mar, 22:05');
  placeAt('en-US', 'America/Halifax');
  expect(moment('2026-03-04T22:05:00Z').replace('\u202f', ' ')).toBe('Mar 4, 06:05 PM');
});
