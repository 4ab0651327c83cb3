/**
 * The endpoints as an OpenAPI 3.1 document. Paths and descriptions are listed below; bodies come
 * from the request classes that validate them. A test holds the list to the files in
 * `web/pages/api`.
 */
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
// Nested classes are found through class-transformer's storage of `@Type`.
import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import type * as Requests from './requests';
// Importing the classes registers them.
import './requests';

type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';
type Operation = readonly [summary: string, body?: keyof typeof Requests];

const OPERATIONS: Readonly<Record<string, Partial<Record<Method, Operation>>>> = {
  '/api': { get: ['This description.'] },
  '/api/status': { get: ['Whether the server, its database and its worker answer.'] },
  '/api/projects': {
    get: ['All projects, last touched first, with four of their clips each.'],
    post: ['Begins a project.', 'NewProject'],
  },
  '/api/projects/{project}': {
    get: ['A project with its clips, looks and what is under way.'],
    patch: ['Renames a project, removes it or puts it back.', 'ProjectPart'],
  },
  '/api/projects/{project}/copy': { post: ['Duplicates a project; the footage is shared.'] },
  '/api/projects/{project}/clips': {
    post: [
      'Changes what is decided about clips, all of it or nothing; each edit says what it replaces.',
      'ClipEdits',
    ],
  },
  '/api/projects/{project}/imports': {
    post: ['Announces files that are to become a clip.', 'NewImport'],
  },
  '/api/projects/{project}/measure': {
    post: ['Has every clip of the project measured that was not yet.'],
  },
  '/api/projects/{project}/events': { get: ['What changes in a project, as server-sent events.'] },
  '/api/projects/{project}/inspections': {
    post: ['Has clips inspected that changed since they were.', 'NewInspections'],
    delete: ['Stops the inspections that wait or run.'],
  },
  '/api/projects/{project}/references': {
    get: ['The references of a project.'],
    post: ['Keeps a picture as a reference.', 'NewReference'],
  },
  '/api/projects/{project}/deliveries': {
    get: ['What was delivered, and what is being rendered.'],
    post: ['Has clips rendered.', 'NewDelivery'],
  },
  '/api/projects/{project}/cut': {
    get: ['The cut of a project, and its versions.'],
    put: ['Saves a cut in place of the revision that it was made from.', 'CutPart'],
  },
  '/api/projects/{project}/cut/versions': {
    post: ['Keeps the cut as it stands as a version.', 'NewCutVersion'],
  },
  '/api/projects/{project}/cut/versions/{number}': { get: ['A version of the cut.'] },
  '/api/projects/{project}/cut/alignment': {
    post: ['Where a clip’s own sound, or a sound, lies in another.', 'AlignmentAsk'],
  },
  '/api/projects/{project}/cut/sound': { get: ['Samples of the cut’s mix.'] },
  '/api/projects/{project}/cut/deliveries': {
    post: ['Has the whole cut rendered into one file.', 'CutDelivery'],
  },
  '/api/projects/{project}/cut/bake': {
    get: ['How far the cut is baked.'],
    post: ['Has the cut baked for playing.', 'CutToBake'],
    delete: ['Stops baking the cut.'],
  },
  '/api/imports/{import}': {
    post: ['All files are there: the import may begin.'],
    delete: ['Cancels an import, or puts a finished notice away.'],
  },
  '/api/imports/{import}/{file}': {
    put: ['One file of an import, by its place in the list, as the raw body.'],
  },
  '/api/clips/{clip}': { delete: ['Takes a clip out of its project.'] },
  '/api/clips/{clip}/split': {
    post: ['Splits a clip before frames of its footage.', 'SplitBefore'],
  },
  '/api/clips/{clip}/double': {
    post: ['The same stretch of footage once more, as a clip of its own.'],
  },
  '/api/clips/{clip}/progressive': {
    post: ['Has interlaced footage made progressive, as a clip of its own.', 'NewProgressive'],
  },
  '/api/clips/{clip}/gaps': {
    post: ['Brings a sequence that lacks pictures in again, as a clip of its own.', 'NewGaps'],
  },
  '/api/clips/{clip}/traces': {
    post: ['Traces something in a clip’s footage, from marks on it.', 'NewTrace'],
  },
  '/api/traces/{trace}': {
    patch: ['Changes a trace’s name or marks, or whether they are followed.', 'TracePart'],
    delete: ['Takes a trace away, and from the pins that take it.'],
  },
  '/api/traces/{trace}/track': {
    get: ['Where a trace lies on each frame of the footage, and how sure that is.'],
    post: ['Follows a trace that was stopped.'],
    delete: ['Stops following a trace.'],
  },
  '/api/sounds/{sound}': {
    patch: ['Changes a sound’s name, takes it away or puts it back.', 'SoundPart'],
  },
  '/api/sound-files/{hash}/{file}': {
    get: ['The samples of a sound file as FLAC, or its waveform at a zoom.'],
  },
  '/api/clips/{clip}/assets/{asset}': {
    get: ['What is found in all of a clip’s footage, such as the speeds of what moves, in lines.'],
    post: [
      'Has an asset of a clip’s footage made, such as its motion, beginning where somebody looks.',
      'AssetFrom',
    ],
    delete: ['Stops making an asset; what was made by then stays.'],
  },
  '/api/clips/{clip}/bake': {
    get: ['What workers bake of a clip, and the room that all they baked takes.'],
    post: ['Has frames of a clip baked under a look.', 'FramesToBake'],
    delete: ['Stops baking; what is baked by then stays.'],
  },
  '/api/baked': {
    post: ['Which of these pictures workers have baked.', 'KeptNames'],
    delete: ['Takes all frames away that workers baked.'],
  },
  '/api/baked/{name}': { get: ['A picture that workers baked, as PNG.'] },
  '/api/items/{item}': {
    post: ['Tries to render a file of a delivery again.'],
    delete: ['Cancels a file of a delivery.'],
  },
  '/api/items/{item}/file': { get: ['The rendered file.'] },
  '/api/items/{item}/playback': {
    get: ['What a page plays of a rendered file, once it is there.'],
    post: ['Begins to make what browsers can play of it.'],
    delete: ['Stops making it.'],
  },
  '/api/footage/{hash}/{file}': { get: ['A file made from footage: proxy, thumbnails, sound.'] },
  '/api/footage/{hash}/original': { get: ['The file that the footage came in as.'] },
  '/api/footage/{hash}/frames/{frame}': {
    get: ['Native planes of a frame, or of several from there on.'],
  },
  '/api/footage/{hash}/stills/{frame}': { get: ['A frame as a small JPEG.'] },
  '/api/footage/{hash}/assets/{asset}/{frame}': {
    get: ['The part of an asset at a frame, such as the motion to the next, packed.'],
  },
  '/api/looks': {
    get: ['The looks of the Shelf.'],
    post: ['Puts a look on the Shelf, as its first version.', 'NewLook'],
  },
  '/api/looks/{look}': { delete: ['Takes a look off the Shelf.'] },
  '/api/looks/{look}/versions': {
    post: ['Saves a version; the clips named go on to it.', 'NewVersion'],
  },
  '/api/looks/{look}/followers': { get: ['The clips that will go on to the look’s next version.'] },
  '/api/versions/{version}': {
    get: ['The document of a version.'],
    patch: ['Takes a version out of sight, or puts it back.', 'VersionPart'],
  },
  '/api/pieces': { get: ['The kept pieces.'], post: ['Keeps a piece.', 'NewLook'] },
  '/api/pieces/{piece}': { delete: ['Takes a kept piece away.'] },
  '/api/references/{reference}': { delete: ['Takes a reference away.'] },
  '/api/references/{reference}/picture': { get: ['The reference as PNG.'] },
  '/api/references/{reference}/statistics': {
    get: ['What the reference’s picture is like as a whole.'],
  },
};

const PROBLEM = {
  description: 'What is wrong and what to do (RFC 9457).',
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
};
const PROBLEM_SCHEMA = {
  type: 'object',
  required: ['title', 'status', 'detail'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    detail: { type: 'string' },
  },
};

const schemaOf = (name: string): object => ({ $ref: `#/components/schemas/${name}` });
const parametersOf = (path: string): object[] =>
  [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));

function operation(path: string, [summary, body]: Operation): object {
  const parameters = parametersOf(path);
  return {
    summary,
    ...(parameters.length > 0 && { parameters }),
    ...(body && {
      requestBody: { required: true, content: { 'application/json': { schema: schemaOf(body) } } },
    }),
    responses: { '2XX': { description: 'Done.' }, '4XX': PROBLEM, '5XX': PROBLEM },
  };
}

/** All operations as `METHOD path` with the class of their body, for the test. */
export const operations = (): readonly {
  readonly name: string;
  readonly body: string | undefined;
}[] =>
  Object.entries(OPERATIONS).flatMap(([path, all]) =>
    Object.entries(all).map(([method, [, body]]) => ({
      name: `${method.toUpperCase()} ${path}`,
      body,
    })),
  );

/** The OpenAPI document. */
export function description(): object {
  const schemas = validationMetadatasToSchemas({
    classTransformerMetadataStorage: defaultMetadataStorage,
    refPointerPrefix: '#/components/schemas/',
  });
  const paths = Object.entries(OPERATIONS).map(([path, all]) => [
    path,
    Object.fromEntries(Object.entries(all).map(([method, o]) => [method, operation(path, o)])),
  ]);
  return {
    openapi: '3.1.0',
    info: {
      title: 'Wabisabi',
      version: '1',
      description:
        'What the pages of the application ask of its server. Answers are JSON where nothing else is said.',
    },
    paths: Object.fromEntries(paths),
    components: { schemas: { ...schemas, Problem: PROBLEM_SCHEMA } },
  };
}
