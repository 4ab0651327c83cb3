// Sticks hit a floor tom in a dark room: a flash lamp fires with every stroke, a dim tungsten lamp burns behind in haze.
const vec3 TOM = vec3(0.0, 0.0, 0.0);
const float RADIUS = 0.42, TOP = 0.0, DEEP = 0.62;
// Strokes come four to the second, right and left in turn; x: seconds since the latest, y: which one it was.
vec2 strokeAt(float t) { float k = floor(t * 4.0 + 0.35); return vec2(t - (k - 0.35) / 4.0, k); }
float flash(float t) { vec2 s = strokeAt(t); float hard = mod(s.y, 4.0) < 0.5 ? 1.5 : 1.0; return hard * (exp(-s.x * 34.0) + 0.22 * exp(-s.x * 9.0)); }
// How high a stick's tip is above the skin; it falls fast, bounces and rises slowly.
float lift(float t, float hand) {
  float u = fract((t * 4.0 + 0.35 + hand) * 0.5), up = smoothstep(0.0, 0.42, u), down = smoothstep(0.62, 1.0, u);
  return 0.30 * up * (1.0 - down * down * down) + 0.014 * sin(min(u * 40.0, 6.28)) * exp(-u * 12.0);
}
// The flash is far shorter than the shutter is open: each frame holds its mean.
float exposed() { float f = 0.0; for (int i = 0; i < 8; i++) f += flash(uTime0 + uShutter * (float(i) + 0.5) / 8.0) / 8.0; return f; }
// The picture is shaken by each stroke.
vec2 shaken(float t) { vec2 s = strokeAt(t); return 0.0035 * vec2(sin(s.x * 70.0), cos(s.x * 83.0)) * exp(-s.x * 16.0); }
struct Stick { vec3 tip, butt; };
Stick stick(float t, float hand) {
  float h = lift(t, hand), side = hand < 0.5 ? 1.0 : -1.0; vec3 tip = vec3(0.09 * side, TOP + 0.012 + h, 0.03 + 0.05 * h);
  vec3 grip = vec3(0.42 * side + 0.04, TOP + 0.19 + 0.36 * h, 0.62); return Stick(tip, tip + normalize(grip - tip) * 0.66);
}
// A stick turns with its length; a hand and its sleeve go with the place where it is held.
mat3 alongStick(Stick s) { vec3 v = normalize(s.butt - s.tip), u = normalize(cross(v, vec3(0, 0, 1))); return mat3(u, v, cross(u, v)); }
vec3 held(Stick s) { return s.tip + normalize(s.butt - s.tip) * 0.53; }
Stick nearest(vec3 p, float t, out int which) {
  Stick a = stick(t, 0.0), b = stick(t, 1.0); which = capsule(p, a.tip, held(a) + vec3(0.3, 0.05, 0.4), 0.0, 0.0) <= capsule(p, b.tip, held(b) + vec3(-0.3, 0.05, 0.4), 0.0, 0.0) ? 0 : 1;
  if (which == 0) return a; return b;
}
float tube(vec3 p, float r, float h) { vec2 d = abs(vec2(length(p.xz), p.y)) - vec2(r, h); return min(max(d.x, d.y), 0.0) + length(max(d, 0.0)); }
float hoop(vec3 p) { vec2 q = vec2(length(p.xz) - RADIUS - 0.012, p.y - 0.008); return min(length(max(abs(q) - vec2(0.004, 0.02), 0.0)) - 0.004, length(q - vec2(0.006, 0.024)) - 0.009); }
// How far the skin of the drum is below its rest.
float waves(vec2 p, float t) { vec2 s = strokeAt(t); float r = length(p - vec2(0.09 * (mod(s.y, 2.0) < 0.5 ? 1.0 : -1.0), 0.03)); return 0.0022 * cos(r * 46.0 - s.x * 120.0) * exp(-s.x * 11.0) * exp(-r * 2.0); }
// The drum and who plays it: 0 skin of the drum, 1 hoop and lugs, 2 shell, 3 stick, 4 hand, 7 sleeve (5 floor and 6 wall are planes).
const vec3 LOW = vec3(-1.1, -0.72, -0.5), HIGH = vec3(1.2, 0.8, 1.3);
vec2 world(vec3 p, float t) {
  vec2 d = vec2(9.0, 5.0); float wave = waves(p.xz, t);
  float skin = tube(p - vec3(0, TOP - 0.02 + wave, 0), RADIUS, 0.02); if (skin < d.x) d = vec2(skin, 0.0);
  float shell = tube(p - vec3(0, -DEEP * 0.5 - 0.02, 0), RADIUS - 0.006, DEEP * 0.5); if (shell < d.x) d = vec2(shell, 2.0);
  // What is small is only looked at from near.
  if (abs(length(p.xz) - RADIUS - 0.02) < 0.09 && p.y < 0.12) {
    float a = atan(p.z, p.x), step = 6.2831853 / 8.0, k = floor(a / step + 0.5) * step; vec3 q = p; q.xz = rot(k) * q.xz; q.x -= RADIUS;
  float metal = min(hoop(p), hoop(vec3(p.x, -p.y - DEEP - 0.03, p.z)));
  metal = min(metal, capsule(q, vec3(0.026, 0.03, 0), vec3(0.026, -0.2, 0), 0.0065, 0.0065)); metal = min(metal, box3(q - vec3(0.016, -0.2, 0), vec3(0.017, 0.055, 0.02), 0.012)); metal = min(metal, length(q - vec3(0.026, 0.036, 0)) - 0.013);
  metal = min(metal, capsule(q - vec3(0.03, 0, 0), vec3(0, -0.25, 0.1), vec3(0.02, -0.72, 0.1), 0.009, 0.009)); if (metal < d.x) d = vec2(metal, 1.0);
  } else d.x = min(d.x, max(abs(length(p.xz) - RADIUS - 0.02) - 0.05, 0.03));
  for (int i = 0; i < 2; i++) {
    Stick st = stick(t, float(i)); vec3 along = normalize(st.butt - st.tip);
    float outer = capsule(p, st.tip, st.butt + vec3(i == 0 ? 0.3 : -0.3, 0.05, 0.55), 0.03, 0.26); if (outer > 0.06) { d.x = min(d.x, outer); continue; }
    float wood = capsule(p, st.tip + along * 0.05, st.butt, 0.009, 0.0145); wood = smin(wood, ellipsoid(p - st.tip, vec3(0.014)), 0.012); wood = smin(wood, capsule(p, st.tip, st.tip + along * 0.06, 0.008, 0.009), 0.01); if (wood < d.x) d = vec2(wood, 3.0);
    float side = i == 0 ? 1.0 : -1.0; vec3 g = st.tip + along * 0.53; float hand = ellipsoid(p - g - vec3(0.012 * side, -0.005, 0.03), vec3(0.05, 0.038, 0.062));
    for (int f = 0; f < 4; f++) { vec3 root = g + along * (float(f) * 0.024 - 0.045) + vec3(0.042 * side, 0.012, 0.01); hand = smin(hand, capsule(p, root, root + vec3(-0.046 * side, -0.03, -0.012), 0.0155, 0.0135), 0.012); hand = smin(hand, capsule(p, root, g + along * (float(f) * 0.02 - 0.03) + vec3(0.05 * side, 0.025, 0.05), 0.016, 0.018), 0.014); }
    hand = smin(hand, capsule(p, g + vec3(-0.022 * side, 0.022, 0.03), g - along * 0.04 + vec3(-0.014 * side, 0.016, 0.0), 0.017, 0.013), 0.016);
    vec3 wrist = g + vec3(0.05 * side, 0.02, 0.1); hand = smin(hand, capsule(p, g + vec3(0.02 * side, 0.0, 0.06), wrist, 0.036, 0.031), 0.03); if (hand < d.x) d = vec2(hand, 4.0);
    float sleeve = capsule(p, wrist + vec3(0.02 * side, 0.02, 0.05), wrist + vec3(0.22 * side, 0.05, 0.45), 0.046, 0.085) - 0.004 * sin(p.z * 80.0 + sin(p.y * 60.0)); if (sleeve < d.x) d = vec2(sleeve, 7.0);
  }
  return d;
}
vec3 normalAt(vec3 p, float t) { vec2 e = vec2(0.0012, -0.0012); return normalize(e.xyy * world(p + e.xyy, t).x + e.yyx * world(p + e.yyx, t).x + e.yxy * world(p + e.yxy, t).x + e.xxx * world(p + e.xxx, t).x); }
float shade(vec3 p, vec3 l, float far, float t, float k) { float s, end, m = 1.0; if (!hitBox(p, l, LOW, HIGH, s, end)) return 1.0; s = max(s, 0.02); far = min(far, end); for (int i = 0; i < 20; i++) { float h = world(p + l * s, t).x; m = min(m, k * h / s); s += clamp(h, 0.015, 0.25); if (m < 0.01 || s > far) break; } m = clamp(m, 0.0, 1.0); return m * m * (3.0 - 2.0 * m); }
vec3 bricks(vec2 q) {
  vec2 b = q * vec2(4.2, 12.6); b.x += mod(floor(b.y), 2.0) * 0.5; vec2 f = abs(fract(b) - 0.5); float joint = smoothstep(0.5, 0.44, max(f.x * 1.02, f.y * 1.1 - 0.03)); float id = hash2(floor(b) + 31.0);
  return mix(vec3(0.16, 0.15, 0.14), mix(vec3(0.17, 0.075, 0.055), vec3(0.3, 0.15, 0.11), id), joint) * (0.55 + 0.7 * fbm(q * 14.0, 4));
}
vec3 eye(float t) { return vec3(-0.55 + 0.05 * t, 0.62 + 0.03 * sin(t * 0.8), 1.28); }
const vec3 aim = vec3(0.03, -0.03, 0.0);
#ifdef TRUTH
// 1 what stands still, 2 the skin of the drum, 3 and 4 sticks, 5 and 6 hands, 7 and 8 sleeves.
vec3 follow(vec3 x, int what, float t, float dt) {
  if (what < 2) return x; if (what == 2) return x + vec3(0, waves(x.xz, t + dt) - waves(x.xz, t), 0);
  float hand = float((what - 3) & 1); Stick now = stick(t, hand), then = stick(t + dt, hand);
  if (what > 4) return x + held(then) - held(now); return then.tip + alongStick(then) * (transpose(alongStick(now)) * (x - now.tip));
}
vec2 onto(vec3 x, float t) { vec3 d = transpose(lookAt(eye(t), aim)) * (x - eye(t)); return d.z <= 0.0 ? vec2(9) : d.xy / d.z * 1.42 - shaken(t); }
#endif
vec3 scene(vec2 p, float t) {
  p += shaken(t); vec3 ro = eye(t), rd = lookAt(ro, aim) * normalize(vec3(p, 1.42));
  float d, end, id = -1.0; if (hitBox(ro, rd, LOW, HIGH, d, end)) { d = max(d, 0.2); for (int i = 0; i < 72; i++) { vec2 h = world(ro + rd * d, t); if (h.x < 0.001 * d) { id = h.y; break; } d += h.x * 0.88; if (d > end) break; } }
  vec3 n; if (id < -0.5) { float floorAt = (ro.y + 0.72) / max(-rd.y, 1e-4), wallAt = (ro.z + 2.1) / max(-rd.z, 1e-4); id = floorAt < wallAt ? 5.0 : 6.0; d = min(floorAt, wallAt); n = id < 5.5 ? vec3(0, 1, 0) : vec3(0, 0, 1); } else n = normalAt(ro + rd * d, t);
  vec3 q = ro + rd * d; vec3 base = vec3(0.2), tint = vec3(1.0); int which; Stick own = nearest(q, t, which); vec3 grip = q - held(own), wood = transpose(alongStick(own)) * (q - own.tip); gPoint = q; gObject = id < 0.5 ? 2 : id > 6.5 ? 7 + which : id < 2.5 || id > 4.5 ? 1 : id < 3.5 ? 3 + which : 5 + which; float spec = 0.2, gloss = 24.0, mirror = 0.0;
  if (id < 0.5) {
    float r = length(q.xz); base = vec3(0.74, 0.71, 0.64) * (0.86 + 0.18 * fbm(q.xz * 16.0, 4)); float worn = exp(-40.0 * pow(length(q.xz - vec2(0.0, 0.04)), 2.0)); base *= 1.0 - 0.42 * worn * (0.4 + 0.9 * fbm(q.xz * 60.0, 4)); base *= 1.0 - 0.16 * smoothstep(0.35, 0.4, r);
    float marks = 0.0; for (int i = 0; i < 9; i++) { float f = float(i); vec2 c = vec2(hash1(f) - 0.5, hash1(f + 40.0) - 0.5) * 0.34; vec2 v = rot(hash1(f + 80.0) * 3.0) * (q.xz - c); marks = max(marks, smoothstep(0.004, 0.0, abs(v.y)) * smoothstep(0.05, 0.02, abs(v.x))); } base *= 1.0 - 0.3 * marks; spec = 0.25; gloss = 14.0; n = normalize(n + 0.05 * vec3(noise(q.xz * 220.0) - 0.5, 0.0, noise(q.xz * 220.0 + 9.0) - 0.5));
  } else if (id < 1.5) { base = vec3(0.035); spec = 1.0; gloss = 60.0; mirror = 0.75; n = normalize(n + 0.02 * (vec3(noise3(q * 70.0), noise3(q * 70.0 + 5.0), noise3(q * 70.0 + 11.0)) - 0.5)); }
  else if (id < 2.5) { float a = atan(q.z, q.x); vec2 g = vec2(a * 2.0, q.y * 4.2); float grain = fbm(vec2(g.x * 2.0 + 0.5 * fbm(g * 1.3, 3), g.y * 7.0), 5); base = mix(vec3(0.10, 0.012, 0.010), vec3(0.42, 0.07, 0.03), grain * grain * 1.6); spec = 0.8; gloss = 90.0; mirror = 0.09; }
  else if (id < 3.5) { base = mix(vec3(0.5, 0.34, 0.18), vec3(0.68, 0.5, 0.3), noise(vec2(wood.x * 60.0, wood.y * 9.0))) * (0.8 + 0.3 * noise3(wood * 120.0)); spec = 0.3; gloss = 22.0; }
  else if (id < 4.5) { base = vec3(0.58, 0.33, 0.235) * (0.86 + 0.2 * fbm3(grip * 44.0, 3)) * mix(vec3(1), vec3(1.08, 0.8, 0.74), noise3(grip * 30.0)); spec = 0.3; gloss = 18.0; n = normalize(n + 0.1 * (vec3(noise3(grip * 160.0), noise3(grip * 160.0 + 9.0), noise3(grip * 160.0 + 19.0)) - 0.5)); }
  else if (id < 5.5) { float pl = q.x / 0.19; float gap = smoothstep(0.5, 0.47, abs(fract(pl) - 0.5)); base = mix(vec3(0.05, 0.033, 0.022), vec3(0.16, 0.1, 0.06), fbm(vec2(q.x * 30.0, q.z * 2.0 + floor(pl) * 5.0), 4)) * (0.3 + 0.7 * gap) * (0.6 + 0.5 * hash1(floor(pl))); float rug = smoothstep(1.05, 1.02, length(q.xz * vec2(0.9, 1.1))); base = mix(base, mix(vec3(0.05, 0.03, 0.05), vec3(0.16, 0.06, 0.045), step(0.5, fract(length(q.xz) * 7.0 + 0.1 * noise(q.xz * 50.0)))) * (0.5 + 0.8 * noise(q.xz * 260.0)), rug); spec = 0.25 * (1.0 - rug); gloss = 20.0; mirror = 0.05 * (1.0 - rug); }
  else if (id < 6.5) { base = bricks(q.xy); n = normalize(n + 0.5 * vec3(fbm(q.xy * 20.0, 2) - 0.4, fbm(q.xy * 20.0 + 7.0, 2) - 0.4, 0.0)); }
  else { base = vec3(0.05, 0.06, 0.085) * (0.7 + 0.6 * noise(grip.xy * 240.0) * noise(grip.zy * 240.0)); spec = 0.05; }
  vec3 F = vec3(-1.15, 1.35, 0.7), L = vec3(1.5, 0.75, -1.5); float f = exposed(); vec3 flashLight = vec3(0.86, 0.93, 1.0) * 8.5 * f, lampLight = warm(0.35) * 1.5;
  vec3 toF = F - q, toL = L - q; float df = length(toF), dl = length(toL); toF /= df; toL /= dl; float close = clamp(world(q + n * 0.05, t).x / 0.05 * 0.6 + world(q + n * 0.16, t).x / 0.16 * 0.4, 0.08, 1.0);
  float wrap = id > 3.5 && id < 4.5 ? 0.22 : 0.0; float nf = max((dot(n, toF) + wrap) / (1.0 + wrap), 0.0) * shade(q + n * 0.004, toF, df, t, 18.0) / (0.35 + df * df), nl = max((dot(n, toL) + wrap) / (1.0 + wrap), 0.0) * shade(q + n * 0.004, toL, dl, t, 9.0) / (0.3 + dl * dl);
  vec3 room = vec3(0.020, 0.024, 0.036) + flashLight * 0.011; vec3 col = base * (flashLight * nf * 1.5 + lampLight * nl * 2.2 + room * close * (0.6 + 0.4 * n.y));
  if (wrap > 0.0) col += base * vec3(0.6, 0.13, 0.06) * (flashLight * 0.05 + lampLight * 0.05) * pow(1.0 - max(dot(n, -rd), 0.0), 2.0);
  vec3 r = reflect(rd, n); float fres = 0.25 + 0.75 * pow(1.0 - max(dot(n, -rd), 0.0), 4.0); col += spec * (flashLight * nf * pow(max(dot(r, toF), 0.0), gloss) * 2.4 + lampLight * nl * pow(max(dot(r, toL), 0.0), gloss) * 4.0);
  if (mirror > 0.0) { float k = smoothstep(-0.2, 0.6, r.y); vec3 env = mix(bricks(r.xy * 2.0) * (lampLight * 0.12 + flashLight * 0.08), vec3(0.012, 0.015, 0.022) + flashLight * 0.05, k); env += flashLight * 1.3 * pow(max(dot(r, toF), 0.0), 28.0) + lampLight * 2.4 * pow(max(dot(r, toL), 0.0), 40.0); env *= 0.5 + 0.5 * close; col += env * mirror * fres; }
  // Haze between: the lamp's own glow, and the flash caught in it.
  vec3 v = L - ro; float along = clamp(dot(v, rd), 0.0, d), dist = length(v - rd * along); float smoke = 0.6 + 0.8 * fbm(p * 3.0 + vec2(t * 0.12, -t * 0.05), 4); col += lampLight * (0.009 / (dist * dist + 0.012)) * smoke * (along < d - 0.001 ? 1.0 : 0.25);
  vec3 w = F - ro; float aw = clamp(dot(w, rd), 0.0, d), dw = length(w - rd * aw); col += flashLight * 0.010 / (dw * dw + 0.09) * smoke + vec3(0.0035, 0.004, 0.006) * smoke * (0.4 + 3.0 * f);
  if (id > 2.5 && id < 4.5) gMatte = 1.0; return col * (1.0 - 0.3 * dot(p, p));
}
