import { type ComponentType, createContext, useContext } from 'react';
import type { Probed } from '../engine/protocol';

export interface PickProps {
  readonly label: string;
  readonly onPicked: (p: Probed) => void;
  readonly words?: string;
}

/** Picks from the picture of the page; null on a page that has none to pick from. */
export const PickerContext = createContext<ComponentType<PickProps> | null>(null);

/** Has a value picked from the page's picture; nothing where there is none. */
export function PickButton(props: PickProps) {
  const Picker = useContext(PickerContext);
  return Picker && <Picker {...props} />;
}
