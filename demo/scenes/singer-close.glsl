// A singer's face, close: a warm lamp from the left, the harbour's cold light behind, eyes that blink, a mouth that sings.
float lids(float t) { float a = abs(fract(t / 1.55 + 0.18) - 0.5) * 1.55, b = abs(fract(t / 3.1 + 0.62) - 0.5) * 3.1; return max(smoothstep(0.11, 0.03, a), 0.35 * smoothstep(0.14, 0.05, b)); }
float singing(float t) { return clamp(0.45 + 0.4 * sin(t * 5.1) * sin(t * 2.3 + 0.6) + 0.25 * sin(t * 8.7 + 1.0) * sin(t * 1.7), 0.0, 1.0) * smoothstep(-0.3, 0.35, sin(t * 1.9 + 0.3)); }
float gBlink, gMouth; mat3 gHead; vec3 gGaze;
void setHead(float t) {
  gBlink = lids(t); gMouth = singing(t); float yaw = -0.30 + 0.10 * sin(t * 0.9) + 0.03 * sin(t * 2.3), nod = 0.06 * sin(t * 1.9 + 0.5) - 0.03 * gMouth - 0.04, tilt = 0.07 * sin(t * 0.9 + 1.2) - 0.05;
  mat3 ry = mat3(cos(yaw), 0, -sin(yaw), 0, 1, 0, sin(yaw), 0, cos(yaw)), rx = mat3(1, 0, 0, 0, cos(nod), sin(nod), 0, -sin(nod), cos(nod)), rz = mat3(cos(tilt), sin(tilt), 0, -sin(tilt), cos(tilt), 0, 0, 0, 1); gHead = ry * rx * rz;
  gGaze = normalize(vec3(0.16 + 0.10 * sin(t * 1.1) + 0.06 * step(0.4, sin(t * 2.7)), -0.02 + 0.03 * sin(t * 1.7), 1.0));
}
const vec3 EYE = vec3(0.142, 0.055, 0.288); const float BALL = 0.098;
float smax(float a, float b, float k) { return -smin(-a, -b, k); }
// The head in its own frame (chin at −0.56, crown at 0.62, face towards +z).
float skinAt(vec3 q) {
  vec3 s = vec3(abs(q.x), q.yz); float open = gMouth * 0.085; vec3 j = s; j.y += open * smoothstep(-0.24, -0.42, q.y) * smoothstep(-0.1, 0.2, q.z);
  float d = ellipsoid(q - vec3(0, 0.2, -0.06), vec3(0.362, 0.41, 0.44)); d = smin(d, ellipsoid(s - vec3(0.0, 0.05, 0.08), vec3(0.305, 0.36, 0.325)), 0.12);
  d = smin(d, ellipsoid(j - vec3(0.0, -0.25, 0.10), vec3(0.180, 0.285, 0.265)), 0.14); d = smin(d, ellipsoid(j - vec3(0.0, -0.475, 0.215), vec3(0.080, 0.070, 0.085)), 0.13);
  d = smin(d, capsule(j, vec3(0.222, -0.19, -0.06), vec3(0.085, -0.455, 0.17), 0.055, 0.052), 0.12); d = smin(d, ellipsoid(s - vec3(0.195, -0.065, 0.235), vec3(0.082, 0.066, 0.078)), 0.13);
  d = smin(d, capsule(s, vec3(0.045, 0.155, 0.352), vec3(0.235, 0.165, 0.255), 0.038, 0.03), 0.085);
  d = smax(d, -ellipsoid(s - vec3(0.145, 0.050, 0.405), vec3(0.100, 0.060, 0.082)), 0.07);
  float nose = capsule(q, vec3(0, 0.115, 0.352), vec3(0, -0.085, 0.462), 0.030, 0.040); nose = smin(nose, ellipsoid(q - vec3(0, -0.118, 0.468), vec3(0.050, 0.043, 0.048)), 0.035); nose = smin(nose, ellipsoid(s - vec3(0.058, -0.135, 0.425), vec3(0.034, 0.030, 0.042)), 0.030); d = smin(d, nose, 0.055);
  d = smax(d, -ellipsoid(s - vec3(0.030, -0.163, 0.452), vec3(0.016, 0.014, 0.024)), 0.014);
  d = smin(d, ellipsoid(s - vec3(0.0, -0.245, 0.352), vec3(0.13, 0.09, 0.058)), 0.07); d = smax(d, -capsule(q, vec3(0, -0.185, 0.43), vec3(0, -0.235, 0.44), 0.010, 0.013), 0.025);
  float w = 0.128 - 0.028 * gMouth; float bow = 0.012 * cos(clamp(s.x / 0.05, 0.0, 3.1)); vec3 up = s - vec3(0.0, -0.272 + bow * 0.6 + 0.10 * s.x * s.x, 0.404 - 1.55 * s.x * s.x); float upper = length(vec3(max(abs(up.x) - w + 0.03, 0.0), up.y * 1.15, up.z)) - 0.026 * smoothstep(w + 0.02, 0.02, s.x);
  vec3 lo = s - vec3(0.0, -0.318 - open * 1.15 + 0.9 * s.x * s.x * (0.4 + gMouth), 0.402 - 1.5 * s.x * s.x - open * 0.25); float lower = length(vec3(max(abs(lo.x) - w + 0.045, 0.0), lo.y, lo.z)) - 0.034 * smoothstep(w + 0.01, 0.015, s.x);
  d = smin(d, upper, 0.026); d = smin(d, lower, 0.026);
  float gap = ellipsoid(q - vec3(0, -0.292 - open * 0.56, 0.415), vec3(w * 0.86, 0.0045 + open * 0.62, 0.10)); d = smax(d, -gap, 0.014);
  // Lids: a shell over the ball, opened between two planes.
  vec3 e = s - EYE; float shell = length(e) - BALL - 0.0105; float upLid = e.y - mix(0.033, -0.028, gBlink) - 0.10 * e.x * 0.4 + 1.9 * e.x * e.x; float loLid = -e.y - 0.032 + 1.5 * e.x * e.x; float slit = max(upLid, loLid); d = smax(d, -(length(e) - BALL - 0.003), 0.006); d = smin(d, smax(shell, -slit, 0.006), 0.012);
  float ear = ellipsoid(s - vec3(0.345, 0.0, -0.06), vec3(0.035, 0.105, 0.065)); ear = smax(ear, -ellipsoid(s - vec3(0.378, 0.01, -0.035), vec3(0.03, 0.065, 0.038)), 0.02); d = smin(d, ear, 0.03);
  return d;
}
float hairAt(vec3 q, out float strand) {
  float a = atan(q.x, q.z + 0.12); strand = fbm(vec2(a * 34.0 + 1.2 * sin(q.y * 4.0 + a), q.y * 1.7 + q.x), 4);
  float cap = ellipsoid(q - vec3(0, 0.235, -0.10), vec3(0.408, 0.445, 0.482)); float part = 0.09; cap = smax(cap, -ellipsoid(q - vec3(0.03, -0.12, 0.42), vec3(0.325 + 0.02 * sin(q.y * 9.0), 0.52, 0.37)), 0.05);
  float side = 1e3; for (int i = 0; i < 2; i++) { float k = i == 0 ? -1.0 : 1.0; side = min(side, ellipsoid(q - vec3(k * 0.345, -0.20, -0.08), vec3(0.082, 0.50, 0.19))); } float back = ellipsoid(q - vec3(0, -0.2, -0.30), vec3(0.40, 0.58, 0.24)); cap = smin(smin(cap, side, 0.12), back, 0.12);
  float fringe = capsule(q, vec3(-0.05, 0.50, 0.28), vec3(-0.30, 0.18, 0.25), 0.065, 0.03); fringe = smin(fringe, capsule(q, vec3(-0.02, 0.52, 0.27), vec3(0.30, 0.22, 0.22), 0.06, 0.025), 0.03); cap = smin(cap, fringe, 0.06);
  return cap - 0.030 * (strand - 0.5) - 0.003 * sin(a * 230.0 + 14.0 * strand);
}
// 0 skin, 1 eye, 2 hair, 3 inside of the mouth and teeth, 4 coat.
vec2 world(vec3 p) {
  vec3 q = transpose(gHead) * p; vec2 d = vec2(skinAt(q), 0.0); vec3 s = vec3(abs(q.x), q.yz);
  float neck = capsule(p, vec3(0.02, -0.25, -0.10), vec3(0.0, -0.95, -0.16), 0.185, 0.205); neck = smin(neck, capsule(p, vec3(0.14, -0.35, 0.0), vec3(0.03, -0.92, 0.05), 0.05, 0.035), 0.1); d.x = smin(d.x, neck, 0.075);
  float eye = length(s - EYE) - BALL; eye = min(eye, length(s - EYE - vec3(gGaze.x * sign(q.x), gGaze.yz) * 0.028) - 0.0755); if (eye < d.x) d = vec2(eye, 1.0);
  float mouth = ellipsoid(q - vec3(0, -0.292 - gMouth * 0.045, 0.285), vec3(0.105, 0.024 + gMouth * 0.058, 0.085)); if (mouth < d.x) d = vec2(mouth, 3.0);
  float strand; float rough = ellipsoid(q - vec3(0, 0.0, -0.10), vec3(0.58, 0.86, 0.62)); if (rough < 0.06) { float hair = hairAt(q, strand) * 0.7; if (hair < d.x) d = vec2(hair, 2.0); } else d.x = min(d.x, rough);
  float coat = capsule(p, vec3(-0.62, -1.08, -0.18), vec3(0.62, -1.08, -0.18), 0.24, 0.24); coat = smin(coat, ellipsoid(p - vec3(0, -1.3, -0.1), vec3(0.62, 0.5, 0.36)), 0.2); float collar = abs(length(vec2(p.x * 0.86, p.z + 0.1)) - 0.27 - 0.14 * (p.y + 0.9)) - 0.022; collar = max(collar, abs(p.y + 0.80 - 0.10 * p.z) - 0.16); coat = smin(coat, collar, 0.05); if (coat < d.x) d = vec2(coat, 4.0);
  return d;
}
vec3 normalAt(vec3 p, float e0) { vec2 e = vec2(e0, -e0); return normalize(e.xyy * world(p + e.xyy).x + e.yyx * world(p + e.yyx).x + e.yxy * world(p + e.yxy).x + e.xxx * world(p + e.xxx).x); }
float shade(vec3 p, vec3 l, float k) { float s = 0.02, m = 1.0; for (int i = 0; i < 24; i++) { float h = world(p + l * s).x; m = min(m, k * h / s); s += clamp(h, 0.012, 0.12); if (m < -0.2 || s > 1.5) break; } m = clamp(m, -0.2, 1.0); m = (m + 0.2) / 1.2; return m * m * (3.0 - 2.0 * m); }
// Lamps of the harbour, far out of focus: hexagons of light with brighter rims.
vec3 harbour(vec2 p, float t) {
  vec3 c = mix(vec3(0.012, 0.019, 0.036), vec3(0.030, 0.036, 0.050), smoothstep(-0.5, 0.4, p.y)) * (0.7 + 0.6 * fbm(p * 2.0, 3));
  for (int i = 0; i < 34; i++) {
    float f = float(i); vec2 o = vec2(hash1(f) * 2.1 - 1.05 + 0.03 * sin(t * 0.5 + f), (hash1(f + 50.0) - 0.45) * 0.62); float r = 0.05 + 0.07 * hash1(f + 90.0); vec2 v = p - o; float ring = length(v) * (1.0 + 0.03 * cos(atan(v.y, v.x) * 7.0)); float disc = smoothstep(r, r * 0.82, ring) * (0.72 + 0.28 * smoothstep(r * 0.3, r * 0.9, ring)) * (0.9 + 0.2 * noise(v * 60.0));
    vec3 hue = hash1(f + 130.0) < 0.62 ? warm(hash1(f + 7.0)) : hash1(f + 170.0) < 0.5 ? vec3(0.35, 0.62, 1.0) : vec3(0.5, 0.95, 0.75); c += hue * disc * (0.035 + 0.75 * pow(hash1(f + 33.0), 5.0)) * (0.9 + 0.1 * sin(t * (3.0 + f) + f));
  } return c;
}
vec2 tremble(float t) { return 0.004 * vec2(sin(t * 1.3), sin(t * 1.9 + 1.0)); }
const vec3 eye = vec3(-0.10, -0.02, 3.6), aim = vec3(0.06, -0.075, 0.0);
// Skin goes with the head, and less and less towards the foot of the neck.
float withHead(float y) { return smoothstep(-0.85, -0.5, y); }
#ifdef TRUTH
// 1 the head (not the mouth, chin and eyes, which move by themselves), 2 coat.
vec3 follow(vec3 x, int what, float t, float dt) { if (what == 2) return x; setHead(t); vec3 q = transpose(gHead) * x; setHead(t + dt); return gHead * q; }
vec2 onto(vec3 x, float t) { vec3 d = transpose(lookAt(eye, aim)) * (x - eye); return d.z <= 0.0 ? vec2(9) : d.xy / d.z * 2.75 - tremble(t); }
#endif
vec3 scene(vec2 p, float t) {
  setHead(t); p += tremble(t); vec3 ro = eye, rd = lookAt(ro, aim) * normalize(vec3(p, 2.75)); vec3 back = harbour(p, t);
  float d, f; if (!hitBox(ro, rd, vec3(-1.0, -1.7, -0.8), vec3(1.0, 0.82, 0.75), d, f)) return back; vec2 h = vec2(1.0, 0.0); bool hit = false; for (int i = 0; i < 80; i++) { h = world(ro + rd * d); if (h.x < 0.0009) { hit = true; break; } d += h.x * 0.8; if (d > f) break; } if (!hit) return back;
  gMatte = 1.0; vec3 x = ro + rd * d, q = transpose(gHead) * x, s = vec3(abs(q.x), q.yz), n = normalAt(x, h.y > 1.5 && h.y < 2.5 ? 0.004 : 0.0016); vec3 key = normalize(vec3(-1.25, 0.40, 0.42)), rim = normalize(vec3(0.95, 0.35, -0.75)); vec3 keyLight = vec3(1.0, 0.70, 0.44) * 2.0, rimLight = vec3(0.36, 0.58, 1.0) * 1.9, fill = vec3(0.040, 0.050, 0.074);
  float shKey = shade(x + n * 0.01, key, 7.0), shRim = shade(x + n * 0.012, rim, 9.0); float close = clamp(world(x + n * 0.05).x / 0.05 * 0.5 + world(x + n * 0.14).x / 0.14 * 0.5, 0.0, 1.0); close = 0.25 + 0.75 * close; vec3 col;
  float face = dot(n, -rd); gPoint = x; gObject = h.y > 3.5 ? 2 : (h.y < 0.5 && q.y > -0.2 && length(s - EYE) > 0.14) || (h.y > 1.5 && h.y < 2.5) ? 1 : 0; vec3 m = mix(x, q, withHead(q.y));
  if (h.y < 0.5) {
    float pores = fbm3(m * 120.0, 2), mottle = fbm3(m * 9.0, 4), fine = noise3(m * 60.0); vec3 skin = vec3(0.60, 0.375, 0.275) * (0.88 + 0.24 * mottle); float cheek = exp(-28.0 * dot(s - vec3(0.2, -0.10, 0.28), s - vec3(0.2, -0.10, 0.28))), tip = exp(-90.0 * dot(q - vec3(0, -0.12, 0.48), q - vec3(0, -0.12, 0.48))); skin *= mix(vec3(1), vec3(1.06, 0.74, 0.70), clamp(0.5 * cheek + 0.45 * tip + 0.12 * smoothstep(0.5, 0.7, mottle), 0.0, 1.0));
    float freckle = smoothstep(0.70, 0.80, noise3(m * 55.0)) * smoothstep(0.05, 0.75, cheek + tip + 0.12); skin *= 1.0 - 0.10 * freckle; skin *= 1.0 - 0.06 * exp(-70.0 * dot((s - vec3(0.15, -0.02, 0.33)) * vec3(0.8, 2.0, 1.0), (s - vec3(0.15, -0.02, 0.33)) * vec3(0.8, 2.0, 1.0)));
    float open = gMouth * 0.085; float line = -0.292 - open * 0.5; float lips = smoothstep(0.13, 0.105, s.x) * smoothstep(0.042 + open * 0.62 - 1.1 * s.x * s.x, 0.032 + open * 0.6 - 1.3 * s.x * s.x, abs(q.y - line + 0.004)) * step(0.2, q.z); skin = mix(skin, vec3(0.40, 0.105, 0.095) * (0.8 + 0.35 * noise(vec2(q.x * 130.0, q.y * 14.0))), lips * 0.88);
    vec2 br = vec2(s.x - 0.155, q.y - 0.172 - 0.045 * sin(clamp((s.x - 0.06) * 9.0, 0.0, 2.4)) + 0.02); float brow = smoothstep(0.115, 0.085, abs(br.x)) * smoothstep(0.021, 0.007, abs(br.y)) * step(0.1, q.z) * (0.55 + 0.6 * noise(vec2(s.x * 190.0 + q.y * 130.0, q.y * 50.0 - s.x * 60.0))); skin = mix(skin, vec3(0.035, 0.022, 0.016), clamp(brow, 0.0, 1.0) * 0.86);
    vec3 e = s - EYE; float upLid = e.y - mix(0.033, -0.028, gBlink) - 0.04 * e.x + 1.9 * e.x * e.x, loLid = -e.y - 0.032 + 1.5 * e.x * e.x; float near = smoothstep(0.135, 0.118, length(e)); skin = mix(skin, vec3(0.018, 0.012, 0.010), near * 0.94 * smoothstep(0.013, 0.004, abs(upLid))); skin = mix(skin, vec3(0.10, 0.055, 0.045), near * 0.5 * smoothstep(0.008, 0.002, abs(loLid))); skin *= 1.0 - near * 0.45 * smoothstep(0.03, 0.0, abs(upLid - 0.03)); skin *= mix(vec3(1.0), vec3(0.72, 0.58, 0.60), near * smoothstep(0.0, 0.06, upLid) * 0.7);
    float nostril = exp(-1800.0 * dot(s - vec3(0.03, -0.162, 0.455), s - vec3(0.03, -0.162, 0.455))); skin *= 1.0 - 0.9 * nostril;
    vec3 bump = vec3(noise3(m * 150.0), noise3(m * 150.0 + 9.0), noise3(m * 150.0 + 19.0)) - 0.5; vec3 nb = normalize(n + 0.13 * bump + 0.05 * (vec3(fine) - 0.5));
    // Light that comes out beside where it went in: each channel wraps further round, red the furthest.
    float a = dot(nb, key), b = dot(n, rim); vec3 wrap = vec3(0.26, 0.13, 0.09); vec3 lit = clamp((vec3(a) + wrap) / (1.0 + wrap), 0.0, 1.0); lit = lit * lit * (2.0 - lit) * mix(vec3(shKey), pow(vec3(max(shKey, 0.0)), vec3(0.78, 0.97, 1.0)), 0.8); vec3 litRim = clamp((vec3(b) + wrap) / (1.0 + wrap), 0.0, 1.0) * shRim;
    col = skin * (keyLight * lit + rimLight * litRim * 0.85 + fill * close * (0.7 + 0.3 * n.y) + vec3(0.09, 0.035, 0.018) * max(-n.y * 0.5 + 0.3, 0.0) * close); vec3 hk = normalize(key - rd), hr = normalize(rim - rd); float oil = 0.6 + 0.8 * exp(-20.0 * q.x * q.x) * smoothstep(-0.3, 0.3, q.y) + 1.3 * lips + 0.7 * tip; float fr = 0.028 + 0.5 * pow(1.0 - max(dot(hk, -rd), 0.0), 5.0);
    float gloss = 0.65 * pow(max(dot(nb, hk), 0.0), 22.0) + 1.5 * pow(max(dot(nb, hk), 0.0), mix(70.0, 130.0, lips)); col += keyLight * shKey * max(a, 0.0) * gloss * fr * oil * 4.2 * (0.7 + 0.6 * pores); col += rimLight * shRim * (0.18 * pow(max(dot(nb, hr), 0.0), 18.0) + 0.30 * pow(1.0 - max(face, 0.0), 3.0) * max(b + 0.3, 0.0)) * close;
  } else if (h.y < 1.5) {
    vec3 c = s - EYE, g = vec3(gGaze.x * sign(q.x), gGaze.yz), v = normalize(c); float ang = acos(clamp(dot(v, g), -1.0, 1.0)); vec3 side = normalize(v - g * dot(v, g)); float spoke = atan(side.y, side.x); float iris = smoothstep(0.49, 0.45, ang), pupil = smoothstep(0.185, 0.16, ang); vec3 white = vec3(0.60, 0.56, 0.53) * (0.85 + 0.2 * noise3(c * 60.0)); white *= mix(vec3(1.0), vec3(0.95, 0.62, 0.55), smoothstep(0.05, 0.09, abs(c.x)) * 0.7);
    vec3 ir = mix(vec3(0.045, 0.085, 0.095), vec3(0.22, 0.26, 0.20), smoothstep(0.2, 0.42, ang) * (0.4 + 0.9 * noise(vec2(spoke * 14.0, ang * 6.0)))); ir = mix(ir, vec3(0.26, 0.15, 0.05), smoothstep(0.30, 0.19, ang) * 0.7); ir *= 1.0 - 0.75 * smoothstep(0.40, 0.47, ang); vec3 base = mix(white, ir, iris); base = mix(base, vec3(0.004), pupil); float up = c.y - mix(0.033, -0.028, gBlink); float lash = 0.30 + 0.70 * smoothstep(0.004, -0.035, up + 1.9 * c.x * c.x);
    float a = max(dot(n, key) * 0.8 + 0.2, 0.0); col = base * (keyLight * a * (0.25 + 0.75 * shKey) + fill * 1.6 + rimLight * 0.06 * max(dot(n, rim), 0.0)) * lash * (0.5 + 0.5 * close); vec3 r = reflect(rd, n); col += keyLight * 3.2 * smoothstep(0.90, 0.955, dot(r, normalize(vec3(-0.66, 0.40, 0.75)))) * lash; col += vec3(0.2, 0.3, 0.5) * 0.8 * smoothstep(0.965, 0.985, dot(r, normalize(vec3(0.55, 0.35, 0.75)))) * lash; col += fill * 0.7 * smoothstep(-0.1, 0.7, r.y) * lash;
  } else if (h.y < 2.5) {
    float strand; hairAt(q, strand); vec3 along = normalize(vec3(0.25 * sin(q.y * 6.0 + strand * 4.0), -1.0, 0.1)); along = normalize(gHead * along + n * 0.15 * (strand - 0.5)); vec3 dark = mix(vec3(0.020, 0.011, 0.008), vec3(0.085, 0.042, 0.022), strand); float fibre = 0.6 + 0.8 * noise(vec2(atan(q.x, q.z + 0.12) * 160.0 + strand * 12.0, q.y * 7.0)); float tk = dot(along, normalize(key - rd)), tr = dot(along, normalize(rim - rd)); float sk = sqrt(max(1.0 - tk * tk, 0.0)), sr = sqrt(max(1.0 - tr * tr, 0.0)); float dk = clamp(dot(n, key) * 0.75 + 0.25, 0.0, 1.0) * shKey, dr = clamp(dot(n, rim) * 0.75 + 0.3, 0.0, 1.0) * shRim;
    col = dark * fibre * (keyLight * dk * 1.4 + rimLight * dr + fill * 1.5 * close) + keyLight * dk * fibre * (0.055 * pow(sk, 60.0) + vec3(0.05, 0.024, 0.012) * pow(sk, 14.0)) + rimLight * dr * fibre * (0.16 * pow(sr, 26.0) + 0.05 * pow(1.0 - max(face, 0.0), 2.0));
  } else if (h.y < 3.5) { float teeth = smoothstep(0.010, 0.004, abs(q.y + 0.287) - 0.012) * smoothstep(0.085, 0.07, abs(q.x)) * step(0.30, q.z); vec3 base = mix(vec3(0.10, 0.018, 0.016), vec3(0.62, 0.55, 0.46) * (1.0 - 0.35 * smoothstep(0.0035, 0.001, abs(fract(q.x / 0.030) - 0.5) * 0.03)), teeth); float deep = smoothstep(0.2, 0.38, q.z); col = base * (keyLight * 0.30 * shKey + fill) * deep; }
  else { vec3 base = vec3(0.045, 0.052, 0.070) * (0.6 + 0.8 * noise(x.xy * 210.0) * noise(x.xy * vec2(40.0, 260.0)) + 0.3 * fbm(x.xy * 12.0, 3)); col = base * (keyLight * max(dot(n, key), 0.0) * shKey + rimLight * max(dot(n, rim), 0.0) * shRim + fill * 2.0 * close) + rimLight * 0.05 * shRim * pow(1.0 - max(face, 0.0), 3.0); }
  return col;
}
