/* global jest */
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
jest.mock('@yare/core', () => ({ ...jest.requireActual('@yare/core'), unbroken: (sentence) => sentence }));
