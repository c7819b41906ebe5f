/* global jest */
// a page drawn whole takes seconds on a machine that is busy; this is where a test is given up, nothing waits for it
jest.setTimeout(300_000);
