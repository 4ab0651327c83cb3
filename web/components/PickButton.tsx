import { type ComponentType, createContext, useContext } from 'react';
import type { Probed } from '../engine/protocol';

/** Properties of pickers. */
export interface PickProps {
  readonly label: string;
  readonly onPicked: (p: Probed) => void;
  readonly words?: string;
}

/** The picker of the page; null on pages without a picture to pick from. */
export const PickerContext = createContext<ComponentType<PickProps> | null>(null);

/** A button that picks a value from the page's picture; nothing on pages without one. */
export function PickButton(props: PickProps) {
  const Picker = useContext(PickerContext);
  return Picker && <Picker {...props} />;
}
