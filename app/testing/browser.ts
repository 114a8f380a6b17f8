import { TextDecoder, TextEncoder } from 'node:util';
/** What browsers have and the browser of unit tests lacks. */
globalThis.structuredClone ??= (value: unknown) => JSON.parse(JSON.stringify(value)) as never;

// the browser has them; jsdom does not
Object.assign(globalThis, { TextDecoder, TextEncoder });

// a screen with a stray space between its parts warns, and nobody reads warnings
const tell = console.error;
console.error = (...said: unknown[]): void => {
  if (String(said[0]).startsWith('Unexpected text node')) throw new Error(String(said[0]));
  tell(...said);
};

// asked for every element that is looked up by its role, and computed from every rule each time: elements of the same tag, classes and own style look the same here, since no rule asks for more
const compute = window.getComputedStyle.bind(window);
const computed = new Map<string, CSSStyleDeclaration>();
let rulesThen = -1;
window.getComputedStyle = (element, pseudo) => {
  const rules = [...document.styleSheets].reduce((sum, sheet) => sum + sheet.cssRules.length, 0);
  if (rules !== rulesThen) computed.clear();
  rulesThen = rules;
  const key = JSON.stringify([
    element.tagName,
    element.getAttribute('class'),
    element.getAttribute('style'),
    element.hasAttribute('hidden'),
  ]);
  const style = computed.get(key) ?? compute(element, pseudo);
  computed.set(key, style);
  return style;
};
