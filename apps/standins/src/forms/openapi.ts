/** The interface of the form service, as it describes itself (OpenAPI 3.1). Requests are checked against these schemas. */

const text = (maxLength: number, minLength = 0): object => ({ type: 'string', minLength, maxLength });
const ref = (name: string): object => ({ $ref: `#/components/schemas/${name}` });
const id = { type: 'string', pattern: '^[a-z0-9]{1,24}$' };
const closed = (properties: Record<string, object>, required: string[] = []): object => ({ type: 'object', additionalProperties: false, properties, required });

/** What every question has. */
const asked = {
  text: text(1500, 1),
  help: text(500),
  picture: id,
  section: id,
  points: { type: 'integer', minimum: 0, maximum: 100 },
  required: { type: 'boolean' },
  feedback: closed({ right: text(1000), wrong: text(1000) }),
};
const options = {
  type: 'array',
  minItems: 2,
  maxItems: 30,
  items: closed({ text: text(500), picture: id, right: { type: 'boolean' } }, ['text']),
};
const entries = {
  Note: closed({ kind: { const: 'note' }, text: asked.text, picture: id, section: id }, ['kind', 'text']),
  One: closed({ kind: { const: 'one' }, ...asked, options, shuffle: { type: 'boolean' } }, ['kind', 'text', 'options']),
  Several: closed({ kind: { const: 'several' }, ...asked, options, shuffle: { type: 'boolean' } }, ['kind', 'text', 'options']),
  Words: closed({ kind: { const: 'words' }, ...asked, accepted: { type: 'array', maxItems: 40, items: text(200, 1) } }, ['kind', 'text']),
  Paragraph: closed({ kind: { const: 'paragraph' }, ...asked }, ['kind', 'text']),
  Grid: closed(
    {
      kind: { const: 'grid' },
      ...asked,
      columns: { type: 'array', minItems: 2, maxItems: 20, items: text(200, 1) },
      rows: { type: 'array', minItems: 1, maxItems: 20, items: closed({ text: text(200, 1), column: { type: 'integer', minimum: 0 } }, ['text']) },
    },
    ['kind', 'text', 'columns', 'rows'],
  ),
};
const settings = closed({
  quiz: { type: 'boolean', description: 'Whether answers are marked.' },
  shows: { enum: ['nothing', 'score', 'answers'], description: 'What a person sees after sending.' },
  asks: { enum: ['nobody', 'name', 'mail'], description: 'What a person says of themselves.' },
  shuffle: { type: 'boolean', description: 'Questions in an order of their own for each person.' },
  once: { type: 'boolean', description: 'One answer for each name or mail.' },
  open: { type: 'boolean' },
});

const schemas = {
  Problem: closed({ detail: { type: 'string' }, at: { type: 'string' } }, ['detail']),
  Me: closed({ name: { type: 'string' }, mail: { type: 'string' } }, ['name']),
  Settings: settings,
  FormBody: closed({ title: text(200, 1), description: text(2000), settings: ref('Settings') }, ['title']),
  FormPatch: closed({ title: text(200, 1), description: text(2000), settings: ref('Settings') }),
  SectionBody: closed({ title: text(200), text: text(8000) }),
  Section: closed({ id, title: { type: 'string' }, text: { type: 'string' } }, ['id', 'title', 'text']),
  ...entries,
  EntryBody: { oneOf: Object.keys(entries).map(ref), discriminator: { propertyName: 'kind' } },
  Entry: {
    type: 'object',
    description: 'An entry as it was sent, with the ids of it, its options, rows and columns.',
    properties: { id },
    required: ['id', 'kind', 'text'],
  },
  FormRow: closed(
    {
      id,
      title: { type: 'string' },
      link: { type: 'string' },
      entries: { type: 'integer' },
      responses: { type: 'integer' },
      sections: { type: 'array', items: ref('Section') },
    },
    ['id', 'title', 'link', 'entries', 'responses', 'sections'],
  ),
  FormList: closed({ forms: { type: 'array', items: ref('FormRow') }, next: { type: 'string' } }, ['forms']),
  Form: closed(
    {
      id,
      title: { type: 'string' },
      description: { type: 'string' },
      link: { type: 'string', description: 'Where people fill it in.' },
      copyLink: { type: 'string', description: 'Where a colleague takes a copy.' },
      answersLink: { type: 'string', description: 'Where the owner sees answers.' },
      settings: ref('Settings'),
      sections: { type: 'array', items: ref('Section') },
      entries: { type: 'array', items: ref('Entry') },
    },
    ['id', 'title', 'link', 'settings', 'sections', 'entries'],
  ),
  Picture: closed({ id }, ['id']),
  Response: closed(
    {
      id,
      at: { type: 'string', format: 'date-time' },
      name: { type: 'string' },
      mail: { type: 'string' },
      answers: { type: 'object', description: 'By entry: text, id of an option, ids of options, or row → column.' },
      marks: { type: 'object', description: 'By entry: points, or null where a person marks.' },
      score: { type: 'number' },
      maximum: { type: 'number' },
    },
    ['id', 'at', 'answers', 'marks', 'score', 'maximum'],
  ),
  ResponseList: closed({ responses: { type: 'array', items: ref('Response') }, next: { type: 'string' } }, ['responses', 'next']),
};

/** Most entries of a form. */
export const MOST_ENTRIES = 300;

const json = (name: string): object => ({ content: { 'application/json': { schema: ref(name) } } });
const gives = (status: number, name: string, words: string): object => ({
  [status]: { description: words, ...json(name) },
  default: { description: 'What went wrong, and where.', ...json('Problem') },
});
const inPath = (name: string): object => ({ name, in: 'path', required: true, schema: id });
const AFTER = { name: 'after', in: 'query', required: false, schema: { type: 'string' }, description: '`next` of the list before.' };
const KEY = {
  name: 'Idempotency-Key',
  in: 'header',
  required: false,
  schema: { type: 'string', maxLength: 200 },
  description: 'The same key again gives the first answer again and does nothing more; with another body it is refused with 422. Kept for a day.',
};
const takes = (name: string): object => ({ required: true, ...json(name) });

/** The document, for a service that is reached under an address. */
export const openapi = (url: string) => ({
  openapi: '3.1.0',
  info: {
    title: 'Slipway Forms',
    version: '1',
    description: `A simulated form service. Tokens by OAuth 2.0 (${url}/.well-known/oauth-authorization-server). Too many requests get 429 with Retry-After.`,
  },
  servers: [{ url }],
  security: [{ oauth: ['forms'] }],
  paths: {
    '/v1/me': { get: { operationId: 'me', responses: gives(200, 'Me', 'Whose token it is.') } },
    '/v1/forms': {
      get: { operationId: 'forms', parameters: [AFTER], responses: gives(200, 'FormList', 'Your forms, newest first.') },
      post: { operationId: 'makeForm', parameters: [KEY], requestBody: takes('FormBody'), responses: gives(201, 'Form', 'The new form.') },
    },
    '/v1/forms/{form}': {
      parameters: [inPath('form')],
      get: { operationId: 'form', responses: gives(200, 'Form', 'All of it.') },
      patch: { operationId: 'changeForm', requestBody: takes('FormPatch'), responses: gives(200, 'Form', 'As it is now.') },
    },
    '/v1/forms/{form}/sections': {
      parameters: [inPath('form')],
      post: { operationId: 'addSection', parameters: [KEY], requestBody: takes('SectionBody'), responses: gives(201, 'Section', 'At the end of the form.') },
    },
    '/v1/forms/{form}/entries': {
      parameters: [inPath('form')],
      post: {
        operationId: 'addEntry',
        parameters: [KEY],
        requestBody: takes('EntryBody'),
        responses: gives(201, 'Entry', `At the end of its section. A form has at most ${MOST_ENTRIES}.`),
      },
    },
    '/v1/forms/{form}/entries/{entry}': {
      parameters: [inPath('form'), inPath('entry')],
      put: { operationId: 'changeEntry', requestBody: takes('EntryBody'), responses: gives(200, 'Entry', 'In its place.') },
      delete: { operationId: 'removeEntry', responses: { 204: { description: 'Gone.' } } },
    },
    '/v1/forms/{form}/copies': {
      parameters: [inPath('form')],
      post: { operationId: 'copyForm', parameters: [KEY], responses: gives(201, 'Form', 'A form of the same entries, without answers.') },
    },
    '/v1/forms/{form}/responses': {
      parameters: [inPath('form')],
      get: { operationId: 'responses', parameters: [AFTER], responses: gives(200, 'ResponseList', 'Answers that came in, oldest first, some at a time.') },
    },
    '/v1/pictures': {
      post: {
        operationId: 'addPicture',
        parameters: [KEY],
        requestBody: { required: true, content: { 'image/png': {}, 'image/jpeg': {}, 'image/gif': {}, 'image/webp': {} } },
        responses: gives(201, 'Picture', 'To be named by entries. At most 2 MB.'),
      },
    },
  },
  components: {
    schemas,
    securitySchemes: {
      oauth: {
        type: 'oauth2',
        flows: {
          authorizationCode: { authorizationUrl: `${url}/authorize`, tokenUrl: `${url}/token`, scopes: { forms: 'Make forms and read their answers.' } },
        },
      },
    },
  },
});
