/* global jest */
// React's development build takes a call stack for every element it makes, for a warning that may never come; with its count full it takes none
Object.defineProperty(require('react').__CLIENT_INTERNALS_DO_NOT_USE_OR_WARN_USERS_THEY_CANNOT_UPGRADE, 'recentlyCreatedOwnerStacks', {
  get: () => Infinity,
  set: () => {},
});
Object.defineProperty(window, 'matchMedia', {
  writable: true,
  value: (query) => ({
    matches: false,
    media: query,
    onchange: null,
    addListener: () => {},
    removeListener: () => {},
    addEventListener: () => {},
    removeEventListener: () => {},
    dispatchEvent: () => false,
  }),
});
class Observer {
  observe() {}
  unobserve() {}
  disconnect() {}
}
window.ResizeObserver = Observer;
window.IntersectionObserver = Observer;
window.Element.prototype.scrollIntoView = () => {};

// nothing is painted here: what comes after a paint comes at once
jest.mock('../src/ui/afterPaint', () => ({ afterPaint: (work) => work() }));
// words are compared as they are written; that figure and unit hold together is a test of its own
jest.mock('@yare/core/units', () => ({ ...jest.requireActual('@yare/core/units'), unbroken: (sentence) => sentence }));

// Names of buttons and rows are read off the tree some thousand times a test, and each time this DOM would match every
// rule of every sheet against every ancestor. No page here hides or names by a style sheet: what stands on the element
// itself, and that text runs on, is all a name needs.
const inline = new Set(['SPAN', 'A', 'B', 'I', 'LABEL']);
window.getComputedStyle = (element) => ({
  getPropertyValue: (name) => element.style?.getPropertyValue(name) || (name === 'display' ? (inline.has(element.tagName) ? 'inline' : 'block') : ''),
});
