import { figure, money, parseFigure } from './figure';

test.each([
  ['12.5', 12.5],
  [' 12,5 ', 12.5],
  ['.5', 0.5],
  ['-3', -3],
  ['', null],
  ['12 m', undefined],
  ['1e3', undefined],
  ['twelve', undefined],
])('reads %j as %j', (text, want) => expect(parseFigure(text)).toBe(want));

test.each([
  [0.71094, 'Ω', '0.7109\u00a0Ω'],
  [230, 'V', '230\u00a0V'],
  [123456, '', '123500'],
  [null, 'A', '–'],
  [Number.NaN, 'A', '–'],
])('writes %j %s as %s', (v, unit, want) => expect(figure(v, unit)).toBe(want));

test('writes money with its sign before the currency', () => {
  expect(money(-4.5, '€')).toBe('−€\u00a04.50');
  expect(money(null, '€')).toBe('–');
});
