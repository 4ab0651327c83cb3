// Shared by every scene: noise, distance shapes and light. Linear light out, BT.709 primaries.
precision highp float;
precision highp int;
uniform float uTime0, uShutter, uAspect;
uniform vec2 uSize;
uniform float uSeed;
uniform int uFrame, uSamples;
out vec4 outColour;
float gMatte = 0.0;
// What lies under a pixel (0: nothing that can be followed) and where; of scenes with motion truth.
int gObject = 0; vec3 gPoint = vec3(0);
const float PI = 3.14159265;

uint hashU(uint x) { x ^= x >> 16; x *= 0x7feb352du; x ^= x >> 15; x *= 0x846ca68bu; x ^= x >> 16; return x; }
float rnd(uint x) { return float(hashU(x) >> 8) / 16777216.0; }
float hash1(float n) { return rnd(floatBitsToUint(n + 0.123)); }
uint mixU(uint h) { h = (h ^ (h >> 15)) * 0x2c1b3c6du; return h ^ (h >> 13); }
float unit(uint h) { return float(mixU(h) >> 8) * (1.0 / 16777216.0); }
float hash2(vec2 p) { return unit(uint(int(floor(p.x))) * 0x9e3779b1u ^ uint(int(floor(p.y))) * 0x85ebca77u); }
float hash3(vec3 p) { return unit(uint(int(floor(p.x))) * 0x9e3779b1u ^ uint(int(floor(p.y))) * 0x85ebca77u ^ uint(int(floor(p.z))) * 0xc2b2ae3du); }
float noise(vec2 p) {
  vec2 i = floor(p), f = p - i; f = f * f * (3.0 - 2.0 * f); uint x = uint(int(i.x)) * 0x9e3779b1u, y = uint(int(i.y)) * 0x85ebca77u, X = x + 0x9e3779b1u, Y = y + 0x85ebca77u;
  return mix(mix(unit(x ^ y), unit(X ^ y), f.x), mix(unit(x ^ Y), unit(X ^ Y), f.x), f.y);
}
float noise3(vec3 p) {
  vec3 i = floor(p), f = p - i; f = f * f * (3.0 - 2.0 * f); uint x = uint(int(i.x)) * 0x9e3779b1u, y = uint(int(i.y)) * 0x85ebca77u, z = uint(int(i.z)) * 0xc2b2ae3du, X = x + 0x9e3779b1u, Y = y + 0x85ebca77u, Z = z + 0xc2b2ae3du;
  return mix(mix(mix(unit(x ^ y ^ z), unit(X ^ y ^ z), f.x), mix(unit(x ^ Y ^ z), unit(X ^ Y ^ z), f.x), f.y),
             mix(mix(unit(x ^ y ^ Z), unit(X ^ y ^ Z), f.x), mix(unit(x ^ Y ^ Z), unit(X ^ Y ^ Z), f.x), f.y), f.z);
}
float fbm(vec2 p, int oct) { float a = 0.5, s = 0.0; for (int i = 0; i < oct; i++) { s += a * noise(p); p = mat2(1.6, 1.2, -1.2, 1.6) * p + 17.3; a *= 0.5; } return s; }
float fbm3(vec3 p, int oct) { float a = 0.5, s = 0.0; for (int i = 0; i < oct; i++) { s += a * noise3(p); p = p * 2.03 + 11.7; a *= 0.5; } return s; }
mat2 rot(float a) { float c = cos(a), s = sin(a); return mat2(c, -s, s, c); }
float smin(float a, float b, float k) { float h = max(k - abs(a - b), 0.0) / k; return min(a, b) - h * h * k * 0.25; }
float capsule(vec3 p, vec3 a, vec3 b, float r0, float r1) { vec3 pa = p - a, ba = b - a; float h = clamp(dot(pa, ba) / dot(ba, ba), 0.0, 1.0); return length(pa - ba * h) - mix(r0, r1, h); }
float ellipsoid(vec3 p, vec3 r) { float k0 = length(p / r), k1 = length(p / (r * r)); return k0 * (k0 - 1.0) / max(k1, 1e-4); }
float box3(vec3 p, vec3 b, float r) { vec3 q = abs(p) - b + r; return length(max(q, 0.0)) + min(max(q.x, max(q.y, q.z)), 0.0) - r; }
float seg2(vec2 p, vec2 a, vec2 b) { vec2 pa = p - a, ba = b - a; return length(pa - ba * clamp(dot(pa, ba) / dot(ba, ba), 0.0, 1.0)); }
vec3 warm(float k) { return mix(vec3(1.0, 0.36, 0.09), vec3(1.0, 0.72, 0.42), k); }
mat3 lookAt(vec3 from, vec3 to) { vec3 f = normalize(to - from), r = normalize(cross(f, vec3(0, 1, 0))); return mat3(r, cross(r, f), f); }
bool hitBox(vec3 ro, vec3 rd, vec3 lo, vec3 hi, out float n, out float f) {
  vec3 a = (lo - ro) / rd, b = (hi - ro) / rd, mn = min(a, b), mx = max(a, b);
  n = max(max(mn.x, mn.y), max(mn.z, 0.0)); f = min(mx.x, min(mx.y, mx.z)); return f > n;
}
