import { fireEvent } from '@testing-library/react';
import { keepRelease } from '../src/ui/ownRelease';

/** What comes under a finger that still holds, as the bar of Write does: its act begins, and *Stop and put back* takes its place. */
function underFinger(): { node: HTMLElement; pressed: jest.Mock } {
  const pressed = jest.fn();
  const node = document.createElement('div');
  node.setAttribute('role', 'button');
  node.dataset.atOnce = 'true';
  node.addEventListener('mousedown', pressed);
  node.addEventListener('click', pressed);
  document.body.replaceChildren(node);
  return { node, pressed };
}

test('the release of a held act presses nothing that came under the finger; the next finger does', () => {
  const { node, pressed } = underFinger();
  keepRelease();
  // what a browser makes of the finger that goes up
  fireEvent.mouseDown(node);
  fireEvent.mouseUp(node);
  fireEvent.click(node);
  expect(pressed).not.toHaveBeenCalled();
  fireEvent.pointerDown(node);
  fireEvent.mouseDown(node);
  fireEvent.click(node);
  expect(pressed).toHaveBeenCalledTimes(2);
});

test('a key pressed afterwards is a press of its own', () => {
  const { node, pressed } = underFinger();
  keepRelease();
  fireEvent.keyDown(node, { key: 'Enter' });
  fireEvent.click(node);
  expect(pressed).toHaveBeenCalledTimes(1);
});
