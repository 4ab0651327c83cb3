// An old radio's front, close: a hand turns the knob, the needle glows behind the glass and moves along the scale.
float turned(float t) { return 0.5 + 0.34 * sin(t * 1.5 - 0.9) + 0.05 * sin(t * 4.1); }
const vec3 KNOB = vec3(0.62, -0.16, 0.0);
// The knob turns as far as the hand that holds it.
float knobAt(float a) { return a * 0.55; }
float ridged(vec3 q, float a) { float r = length(q.xy), ang = atan(q.y, q.x) - a; return max(r - 0.205 - 0.006 * cos(ang * 28.0), abs(q.z) - 0.13); }
float finger(vec3 p, vec3 root, vec3 knuckle, vec3 tip, float r) { return smin(capsule(p, root, knuckle, r * 1.12, r), capsule(p, knuckle, tip, r, r * 0.82), 0.03); }
float hand(vec3 p, float a) {
  vec3 q = p - KNOB; q.xy = rot(-knobAt(a)) * q.xy;
  float d = finger(q, vec3(0.42, 0.2, 0.42), vec3(0.27, 0.27, 0.24), vec3(0.17, 0.2, 0.06), 0.062);
  d = smin(d, finger(q, vec3(0.46, 0.08, 0.44), vec3(0.33, 0.11, 0.24), vec3(0.23, 0.08, 0.06), 0.062), 0.025);
  d = smin(d, finger(q, vec3(0.47, -0.05, 0.44), vec3(0.37, -0.03, 0.27), vec3(0.29, -0.03, 0.12), 0.055), 0.025);
  d = smin(d, finger(q, vec3(0.36, -0.34, 0.4), vec3(0.19, -0.33, 0.24), vec3(0.06, -0.235, 0.08), 0.068), 0.02);
  d = smin(d, ellipsoid(q - vec3(0.56, -0.12, 0.5), vec3(0.2, 0.26, 0.13)), 0.1);
  return smin(d, capsule(q, vec3(0.62, -0.16, 0.55), vec3(1.3, -0.62, 0.95), 0.16, 0.19), 0.12);
}
// 0 wood, 1 knob, 2 hand, 3 brass frame, 4 cloth.
vec2 world(vec3 p, float a) {
  vec2 d = vec2(p.z + 0.05, 0.0);
  float hole = max(abs(p.x + 0.22) - 0.6, abs(p.y - 0.14) - 0.215); d.x = max(d.x, -max(hole, -(p.z + 0.17)));
  float frame = max(abs(max(abs(p.x + 0.22) - 0.6, abs(p.y - 0.14) - 0.215)) - 0.022, abs(p.z + 0.03) - 0.045); if (frame < d.x) d = vec2(frame, 3.0);
  float small = length(vec2(length(p.xy - vec2(-0.72, -0.34)) , p.z)) - 0.1; small = max(small, -p.z - 0.06); float knob = min(ridged(p - KNOB, -knobAt(a)), ellipsoid(p - vec3(-0.62, -0.29, -0.02), vec3(0.1, 0.1, 0.07))); knob = min(knob, ellipsoid(p - vec3(-0.3, -0.29, -0.02), vec3(0.1, 0.1, 0.07))); if (knob < d.x) d = vec2(knob, 1.0);
  float h = hand(p, a); if (h < d.x) d = vec2(h, 2.0);
  return d;
}
vec3 normalAt(vec3 p, float a) { vec2 e = vec2(0.001, 0); return normalize(vec3(world(p + e.xyy, a).x - world(p - e.xyy, a).x, world(p + e.yxy, a).x - world(p - e.yxy, a).x, world(p + e.yyx, a).x - world(p - e.yyx, a).x)); }
float shade(vec3 p, vec3 l, float a) { float k = 1.0, s = 0.02; for (int i = 0; i < 24; i++) { float h = world(p + l * s, a).x; k = min(k, 8.0 * h / s); s += clamp(h, 0.012, 0.12); if (k < 0.01 || s > 2.2) break; } return clamp(k, 0.0, 1.0); }
// The lit scale behind the glass, at a place of its own plane.
vec3 scale(vec2 q, float a, float t) {
  float lamp = exp(-3.2 * abs(q.x + 0.35)) + 0.8 * exp(-3.4 * abs(q.x - 0.42)); vec3 c = warm(0.5) * (0.2 + 1.15 * lamp * lamp) * (0.72 + 0.28 * smoothstep(0.24, 0.0, abs(q.y))); c *= 0.86 + 0.2 * fbm(q * vec2(30.0, 45.0), 3);
  float ink = 0.0; for (int row = 0; row < 3; row++) { float y = 0.1 - float(row) * 0.1; float step = row == 1 ? 0.036 : 0.055; float f = abs(fract(q.x / step) - 0.5) * step; float long1 = mod(floor(q.x / step), 5.0) < 0.5 ? 0.032 : 0.016; ink = max(ink, smoothstep(0.0032, 0.0014, f) * smoothstep(long1, long1 - 0.004, abs(q.y - y))); ink = max(ink, 0.8 * smoothstep(0.0022, 0.0008, abs(q.y - y + 0.036)) * step * 18.0); float blob = hash2(vec2(floor(q.x / 0.16), float(row))); vec2 w = vec2(fract(q.x / 0.16) * 0.16 - 0.08, q.y - y - 0.043); ink = max(ink, (blob > 0.3 ? 1.0 : 0.0) * smoothstep(0.012, 0.008, abs(w.y)) * smoothstep(0.03, 0.026, abs(w.x)) * step * 17.0 * (noise(vec2(w.x * 420.0 + blob * 90.0, w.y * 160.0)) > 0.46 ? 1.0 : 0.0)); }
  c *= 1.0 - 0.86 * clamp(ink, 0.0, 1.0);
  float x = mix(-0.5, 0.5, a), d = abs(q.x - x); float hum = 1.0 + 0.03 * sin(t * 31.0); c = mix(c, vec3(2.6, 0.42, 0.1) * hum, smoothstep(0.0062, 0.003, d) * smoothstep(0.205, 0.19, abs(q.y))); c += vec3(1.0, 0.2, 0.05) * hum * (0.3 * exp(-d * 60.0) + 0.1 * exp(-d * 12.0)) * smoothstep(0.23, 0.1, abs(q.y));
  return c;
}
float turning(float t) { return (turned(t) - 0.5) * 1.5; }
vec3 eye(float t) { return vec3(0.18 + 0.03 * sin(t * 0.6), -0.02 + 0.02 * sin(t * 0.9), 2.25); }
const vec3 aim = vec3(0.13, -0.03, 0.0);
#ifdef TRUTH
// 1 what stands still, 2 the scale behind the glass, 3 the knob, 4 the hand.
vec3 follow(vec3 x, int what, float t, float dt) { if (what < 3) return x; x -= KNOB; x.xy = rot(knobAt(turning(t + dt)) - knobAt(turning(t))) * x.xy; return x + KNOB; }
vec2 onto(vec3 x, float t) { vec3 d = transpose(lookAt(eye(t), aim)) * (x - eye(t)); return d.z <= 0.0 ? vec2(9) : d.xy / d.z * 1.75; }
#endif
vec3 scene(vec2 p, float t) {
  float a = turned(t), turn = turning(t); vec3 ro = eye(t), rd = lookAt(ro, aim) * normalize(vec3(p, 1.75));
  float s = 1.0; vec2 h = vec2(1.0); bool hit = false; for (int i = 0; i < 80; i++) { h = world(ro + rd * s, turn); if (h.x < 0.0008) { hit = true; break; } s += h.x * 0.9; if (s > 4.0) break; }
  vec3 q = ro + rd * s, n = hit ? normalAt(q, turn) : vec3(0, 0, 1), key = normalize(vec3(-0.75, 0.85, 0.9)), col; float id = h.y; vec3 base; float spec = 0.25, gloss = 24.0;
  bool glass = q.z < -0.1 && abs(q.x + 0.22) < 0.6 && abs(q.y - 0.14) < 0.215;
  if (hit) { gPoint = q; gObject = glass ? (abs(q.x + 0.22 - mix(-0.5, 0.5, a)) < 0.025 ? 0 : 2) : h.y > 0.5 && h.y < 1.5 && length(q.xy - KNOB.xy) < 0.25 ? 3 : h.y > 1.5 && h.y < 2.5 ? 4 : 1; }
  if (glass) {
    col = scale(vec2(q.x + 0.22, q.y - 0.14), a, t); float f = max(0.0, 1.0 - abs(q.y - 0.14) * 2.0); vec3 r = reflect(rd, vec3(0, 0, 1)); float window = smoothstep(0.12, 0.1, abs(r.x + 0.33 + 0.2 * r.y)) * smoothstep(0.05, 0.1, r.y + 0.1); col += vec3(0.32, 0.4, 0.52) * 0.10 * window * f + vec3(0.02, 0.025, 0.035) * (0.4 + fbm(q.xy * 40.0, 3) * 0.4); float edge = min(0.6 - abs(q.x + 0.22), 0.215 - abs(q.y - 0.14)); col *= smoothstep(-0.01, 0.05, edge);
  } else {
    if (id < 0.5) { vec2 g = q.xy * vec2(1.0, 7.0) + vec2(0.0, 0.4 * fbm(q.xy * 2.2, 3)); base = mix(vec3(0.13, 0.055, 0.022), vec3(0.34, 0.165, 0.07), fbm(g * vec2(2.2, 5.5), 5)) * (0.78 + 0.3 * noise(q.xy * vec2(40.0, 420.0))); spec = 0.5; gloss = 46.0; n = normalize(n + 0.02 * vec3(noise(q.xy * vec2(30.0, 300.0)) - 0.5, noise(q.xy * vec2(40.0, 260.0) + 7.0) - 0.5, 0.0)); }
    else if (id < 1.5) { base = vec3(0.055, 0.045, 0.04); spec = 0.9; gloss = 38.0; vec2 k = q.xy - KNOB.xy; float r = length(k); if (r < 0.21 && q.z > 0.1) { float ang = atan(k.y, k.x) + knobAt(turn); base = mix(base, vec3(0.5, 0.4, 0.24), smoothstep(0.014, 0.009, abs(r - 0.16))); base = mix(base, vec3(0.9, 0.82, 0.62), smoothstep(0.012, 0.007, abs(sin(ang - 1.9)) * r) * step(0.05, r) * step(r, 0.15) * step(0.0, cos(ang - 1.9))); } }
    else if (id < 2.5) { vec3 k = q - KNOB; k.xy = rot(-knobAt(turn)) * k.xy; vec3 w = k * 26.0; base = vec3(0.6, 0.36, 0.26) * (0.86 + 0.2 * fbm3(w, 3)); base = mix(base, vec3(0.62, 0.27, 0.2), 0.35 * smoothstep(0.35, 0.0, length(k.xy - vec2(0.1, 0.05)))); spec = 0.2; gloss = 16.0; n = normalize(n + 0.12 * (vec3(noise3(k * 60.0), noise3(k * 60.0 + 9.0), noise3(k * 60.0 + 19.0)) - 0.5)); }
    else { base = vec3(0.5, 0.31, 0.1) * (0.7 + 0.5 * fbm(q.xy * vec2(9.0, 60.0), 4)); spec = 2.4; gloss = 22.0; n = normalize(n + 0.07 * vec3(0.0, noise(q.xy * vec2(6.0, 240.0)) - 0.5, 0.0)); }
    float sh = shade(q + n * 0.004, key, turn), l = max(dot(n, key), 0.0) * sh; float glow = 0.0; vec3 toDial = vec3(clamp(q.x, -0.75, 0.32), 0.14, -0.12) - q; float dd = length(toDial); glow = max(dot(n, toDial / dd) * 0.6 + 0.4, 0.0) / (1.0 + 14.0 * dd * dd) * step(-0.08, q.z); float pool = mix(0.16, 1.0, exp(-1.1 * dot(q.xy - vec2(-0.25, 0.3), q.xy - vec2(-0.25, 0.3)))); float close = clamp(world(q + n * 0.09, turn).x / 0.09, 0.2, 1.0);
    col = base * (vec3(0.75, 0.84, 1.0) * 1.9 * pool * l + warm(0.5) * 1.5 * glow + vec3(0.045, 0.05, 0.065) * close * (0.6 + 0.4 * n.y)); if (id > 1.5 && id < 2.5) col += base * vec3(0.6, 0.14, 0.07) * 0.22 * pow(1.0 - max(dot(n, -rd), 0.0), 2.0) * (0.3 + l); col += vec3(0.8, 0.88, 1.0) * spec * 0.6 * pool * sh * pow(max(dot(reflect(rd, n), key), 0.0), gloss) + warm(0.6) * spec * 0.2 * glow * pow(max(dot(reflect(rd, n), toDial / dd), 0.0), 6.0); if (id > 1.5 && id < 2.5) gMatte = 1.0;
  }
  return col * (1.0 - 0.28 * dot(p, p));
}
