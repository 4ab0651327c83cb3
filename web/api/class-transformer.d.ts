/** Types for a part of class-transformer that ships without: the storage of `@Type`. */
declare module 'class-transformer/cjs/storage.js' {
  /** Where class-transformer keeps what its decorators say. */
  export const defaultMetadataStorage: import('class-transformer/types/MetadataStorage').MetadataStorage;
}
