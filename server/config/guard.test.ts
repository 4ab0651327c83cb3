import { describe, expect, it } from 'vitest';
import { refusal } from './guard.mjs';

const ask = (method: string, headers: Record<string, string>, url = '/api/projects') =>
  (
    refusal({ method, url, headers: { host: '127.0.0.1:4321', ...headers } }) as
      [number] | undefined
  )?.[0];
const json = { 'content-type': 'application/json; charset=utf-8', 'content-length': '2' };

describe('who may ask', () => {
  it('this machine by its own names, whatever the port; another name is answered 421', () => {
    for (const host of ['127.0.0.1:4321', 'localhost:80', 'LOCALHOST', '[::1]:4321'])
      expect(ask('GET', { host })).toBeUndefined();
    for (const host of ['evil.example', 'evil.example:4321', '', '127.0.0.1.evil.example'])
      expect(ask('GET', { host })).toBe(421);
  });
  it('names in the settings too', () => {
    expect(
      refusal(
        { method: 'GET', url: '/', headers: { host: 'studio.lan:4321' } },
        new Set(['studio.lan']),
      ),
    ).toBeUndefined();
  });
  it('no other site changes anything, with Fetch Metadata or without', () => {
    expect(ask('POST', { ...json, origin: 'http://127.0.0.1:4321' })).toBeUndefined();
    expect(ask('POST', { ...json, origin: 'http://evil.example' })).toBe(403);
    expect(ask('POST', { ...json, origin: 'null' })).toBe(403);
    expect(ask('POST', { ...json, origin: 'http://127.0.0.1:9999' })).toBe(403);
    expect(ask('DELETE', { 'sec-fetch-site': 'cross-site' })).toBe(403);
    expect(ask('GET', { 'sec-fetch-site': 'cross-site' })).toBeUndefined();
  });
  it('an address that is none, a method of nobody and the picture endpoint are refused', () => {
    for (const url of ['/api/%00', '/%E0%A4%A', '/a%', '/p/%c0%80']) {
      expect(ask('GET', {}, url)).toBe(400);
      expect(ask('POST', json, url)).toBe(400);
    }
    for (const method of ['TRACE', 'CONNECT', 'PROPFIND']) expect(ask(method, {})).toBe(405);
    expect(ask('GET', {}, '/_image?href=http://evil.example/a.png')).toBe(404);
    expect(ask('GET', {}, '/%5fimage')).toBe(404);
  });
  it('the type of a change is asked for however its address is written', () => {
    const text = { 'content-type': 'text/plain', 'content-length': '2' };
    for (const url of ['/api/looks', '/%61pi/looks', '//api/looks', '/api%2flooks', '/\\api/looks'])
      expect([url, ask('POST', text, url)]).toEqual([url, 415]);
  });
  it('changes come as JSON, files as they are', () => {
    expect(ask('POST', json)).toBeUndefined();
    expect(ask('POST', { 'content-type': 'text/plain', 'content-length': '2' })).toBe(415);
    expect(ask('POST', { 'transfer-encoding': 'chunked' })).toBe(415);
    expect(ask('POST', {})).toBeUndefined();
    expect(ask('PUT', { 'content-length': '9' }, '/api/imports/a/0')).toBeUndefined();
  });
});
