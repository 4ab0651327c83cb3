/** What is wrong with a document. */
/**
 * What is wrong, where (a path such as `layers[0].steps[1].step`), in words that say what to do.
 */
export interface Fault {
  readonly path: string;
  readonly message: string;
}
