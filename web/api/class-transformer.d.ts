/** Types for a part of class-transformer that ships without: the storage of `@Type`. */
declare module 'class-transformer/cjs/storage.js' {
  export const defaultMetadataStorage: import('class-transformer/types/MetadataStorage').MetadataStorage;
}
