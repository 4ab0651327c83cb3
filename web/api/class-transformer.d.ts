/** The part of class-transformer that it ships without types: what `@Type` has said. */
declare module 'class-transformer/cjs/storage.js' {
  export const defaultMetadataStorage: import('class-transformer/types/MetadataStorage').MetadataStorage;
}
