import { Component, inject } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { keyNames } from './key-names';
import { type Shortcut, shortcutListener, ShortcutsService, useShortcuts } from './shortcuts';

let taken: string[] = [];
let asleep = false;
const take = (what: string) => () => void taken.push(what);

@Component({ selector: 'hur-test', template: '<input /><button>b</button><input type="range" />' })
class Page {
  readonly told = inject(ShortcutsService);
  constructor() {
    useShortcuts('Page', [
      { keys: 'Space', says: 'Play', act: take('play') },
      { keys: ['F6', 'h'], says: 'Hear', act: take('hear'), when: () => !asleep },
      { keys: 'ArrowRight', says: 'On', act: take('on') },
      { keys: '?', says: 'Sheet', act: take('sheet') },
      { keys: 'Tab', says: 'Told only' },
    ]);
  }
}

const open = () => {
  const page = TestBed.createComponent(Page);
  document.body.append(page.nativeElement as HTMLElement);
  return {
    page,
    at: (selector: string) => (page.nativeElement as Element).querySelector(selector)!,
  };
};
/** Whether the key was left to the browser. */
const press = (target: EventTarget, key: string, more: KeyboardEventInit = {}): boolean =>
  target.dispatchEvent(
    new KeyboardEvent('keydown', {
      key: key === 'Space' ? ' ' : key,
      code: key,
      bubbles: true,
      cancelable: true,
      ...more,
    }),
  );

describe('keys of a page', () => {
  beforeEach(() => {
    taken = [];
    asleep = false;
  });
  afterEach(() => {
    document.body.replaceChildren();
    document.body.classList.remove('modal-open');
  });

  it('do what they say, wherever the focus is, and are told as long as the page is there', () => {
    const { page } = open();
    expect(press(document.body, 'Space')).toBe(false);
    expect(press(document.body, 'h')).toBe(false);
    expect(press(document.body, 'x')).toBe(true);
    expect(taken).toEqual(['play', 'hear']);
    const { told } = page.componentInstance;
    expect(told.groups().map((g) => g.title)).toEqual(['Page']);
    page.destroy();
    expect(told.groups()).toEqual([]);
    press(document.body, 'Space');
    expect(taken).toHaveLength(2);
  });

  it('leave to a field what is written in it, but function keys', () => {
    const { at } = open();
    expect(press(at('input'), 'h')).toBe(true);
    expect(press(at('input'), 'Space')).toBe(true);
    expect(press(at('input'), 'F6')).toBe(false);
    expect(taken).toEqual(['hear']);
  });

  it('leave space to a button and arrows to a slider', () => {
    const { at } = open();
    expect(press(at('button'), 'Space')).toBe(true);
    expect(press(at('[type=range]'), 'ArrowRight')).toBe(true);
    expect(press(at('[type=range]'), 'Space')).toBe(false);
    expect(press(at('button'), 'ArrowRight')).toBe(false);
    expect(taken).toEqual(['play', 'on']);
  });

  it('rest while a dialog is open, while they have no use, and with Ctrl', () => {
    open();
    expect(press(document.body, 'h', { ctrlKey: true })).toBe(true);
    asleep = true;
    expect(press(document.body, 'h')).toBe(true);
    document.body.classList.add('modal-open');
    expect(press(document.body, 'Space')).toBe(true);
    expect(taken).toEqual([]);
  });

  it('find a sign on any keyboard', () => {
    open();
    press(document.body, '?', { shiftKey: true });
    press(document.body, '?');
    press(document.body, '?', { modifierAltGraph: true });
    expect(taken).toEqual(['sheet', 'sheet', 'sheet']);
  });
});

describe('keys of an element', () => {
  it('go no further once they are taken', () => {
    taken = [];
    const list: Shortcut[] = [
      { keys: 'Shift+ArrowUp', says: 'Up', act: take('up') },
      { keys: '$mod+KeyC', says: 'Copy', act: take('copy') },
    ];
    const element = document.createElement('div');
    document.body.append(element);
    element.addEventListener('keydown', shortcutListener(list));
    let further = 0;
    const count = (): void => void further++;
    document.addEventListener('keydown', count);
    press(element, 'ArrowUp', { shiftKey: true });
    press(element, 'c', { code: 'KeyC', ctrlKey: true });
    press(element, 'ArrowUp');
    document.removeEventListener('keydown', count);
    expect(taken).toEqual(['up', 'copy']);
    expect(further).toBe(1);
  });
});

describe('names of keys', () => {
  it.each([
    ['$mod+Shift+KeyZ', ['Ctrl', '⇧', 'Z']],
    ['Space', ['space']],
    ['h', ['H']],
    ['F4', ['F4']],
    ['~', ['~']],
    ['ArrowLeft', ['←']],
  ])('%s', (keys, names) => expect(keyNames(keys)).toEqual(names));
});
