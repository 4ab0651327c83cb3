/** The Bench's shortcuts; none is one of the browser's own. */
export const KEYS = [
  ['space', 'Space', 'play and stop'], ['left', '←', 'a frame back'], ['right', '→', 'a frame on'], ['shift+left', 'Shift ←', 'ten frames back'], ['shift+right', 'Shift →', 'ten frames on'], ['home', 'Home', 'first frame'], ['end', 'End', 'last frame'],
  ['b', 'B (hold)', 'see the clip without the look'], ['s', 'S', 'seam on and off'], ['f', 'F', 'fit the picture'], ['1', '1', 'one to one'], ['plus', '+', 'closer'], ['minus', '−', 'further'],
  ['mod+z', 'Ctrl Z', 'undo'], ['mod+shift+z', 'Ctrl Shift Z', 'redo'], ['mod+c', 'Ctrl C', 'copy the chosen layer or step'], ['mod+v', 'Ctrl V', 'paste it'], ['d', 'D', 'duplicate the chosen layer'], ['m', 'M', 'switch the chosen layer or step on and off'], ['delete', 'Delete', 'remove it'],
  ['v', 'V', 'save version'], ['shift+slash', '?', 'this list'],
] as const;
export type KeyId = (typeof KEYS)[number][0];
