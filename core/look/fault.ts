/** A fault of a document: its path (such as `layers[0].steps[1].step`), and a message that says what to do. */
export interface Fault {
  readonly path: string;
  readonly message: string;
}
