import { expect, it } from 'vitest';
import { isWhole, stepOf, stepSays, stepText } from './steps';

it.each([
  ['page:/shop', '/shop'],
  ['pageBegins:/shop', '/shop…'],
  ['pagePattern:/orders/*/thanks', '/orders/*/thanks'],
  ['event:basket begun', 'basket begun'],
  ['event:a:b', 'a:b'],
  ['clicked:banner', 'Clicked banner'],
  ['conversion:ticket', 'Converted: ticket'],
  ['conversion:', 'Converted'],
])('the step %s is called %s', (text, says) => {
  expect(stepText(stepOf(text))).toBe(text);
  expect(stepSays(stepOf(text))).toBe(says);
  expect(isWhole(stepOf(text))).toBe(true);
});

it.each(['', 'magic:x', ':x', 'event:'])('“%s” is not a whole step', (text) => {
  expect(isWhole(stepOf(text))).toBe(false);
});
