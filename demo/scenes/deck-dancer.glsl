// A figure dances on the ferry's deck at dusk: warm lamp on the left, cool sky, wet planks.
vec3 sky(vec3 d) {
  float h = max(d.y, 0.0); vec3 c = mix(vec3(0.95, 0.36, 0.16), vec3(0.10, 0.16, 0.34), smoothstep(0.0, 0.32, h)); c = mix(c, vec3(0.035, 0.06, 0.15), smoothstep(0.25, 0.9, h));
  float cl = fbm(d.xz / (abs(d.y) + 0.12) * vec2(1.2, 2.4) + 3.0, 5); c = mix(c, mix(vec3(0.75, 0.22, 0.16), vec3(0.09, 0.09, 0.15), smoothstep(0.0, 0.25, h)), smoothstep(0.45, 0.75, cl) * 0.8); return c * 0.75;
}
vec3 sea(vec3 ro, vec3 rd, float t) {
  float d = (ro.y + 4.0) / max(-rd.y, 1e-3); vec3 p = ro + rd * d; float w = fbm(p.xz * vec2(0.25, 0.6) + vec2(t * 0.5, t * 0.2), 4) + 0.5 * fbm(p.xz * vec2(1.1, 2.1) - t * 0.6, 3);
  vec3 n = normalize(vec3((w - 0.7) * 0.8, 1.0, (fbm(p.zx * 0.7 + t * 0.3, 3) - 0.45) * 0.9)); vec3 r = reflect(rd, n); r.y = abs(r.y); float fr = 0.06 + 0.94 * pow(1.0 - max(dot(n, -rd), 0.0), 4.0);
  return mix(mix(vec3(0.01, 0.02, 0.035), sky(r), fr), sky(normalize(vec3(rd.x, 0.01, rd.z))), smoothstep(60.0, 400.0, d));
}
vec3 lamps(vec3 ro, vec3 rd, float t) {
  vec3 c = vec3(0); for (int i = 0; i < 7; i++) { float f = float(i); vec3 L = vec3(-3.6 + f * 1.25, 2.35 + 0.18 * cos(f * 1.1) + 0.03 * sin(t * 1.3 + f), 2.3 + 0.4 * sin(f * 0.7));
    vec3 v = L - ro; float along = dot(v, rd); float d = length(v - rd * along); c += warm(0.5) * (5.0 * smoothstep(0.045, 0.03, d) + 0.0025 / (d * d + 0.004)) * (0.8 + 0.3 * hash1(f)); } return c;
}
void dance(float t) {
  float b = t * 2.0 * PI; float s1 = sin(b), s2 = sin(b * 0.5), c2 = cos(b * 0.5);
  float u = 0.5 + 0.5 * s2;
  pose(vec3(0.28 * s2, 0.88 - 0.05 * s1 * s1 - 0.03, 0.1 * c2), PI + 0.7 * s2 + 0.25 * sin(t * 1.1), vec2(0.35 * s2, 0.12 * s1),
    vec3(-0.28 - 0.16 * u, 0.40 * sin(b * 0.5 + 0.6), 0.16 + 0.1 * s1), vec3(0.30 + 0.1 * s1, 0.42 * cos(b * 0.5 + 2.2) + 0.05, 0.2 * c2 + 0.1),
    vec3(-0.17 - 0.05 * s2, max(0.0, 0.22 * s2), 0.04 + 0.12 * c2), vec3(0.17, max(0.0, -0.2 * s2), 0.02 - 0.1 * s1), s1 * 0.6);
}
float sway(float t) { return 0.012 * sin(t * 0.9); }
vec3 eye(float t) { return vec3(0.25 + 0.12 * t * 0.3, 1.25, -3.7); }
const vec3 aim = vec3(0.1, 1.02, 0.0);
#ifdef TRUTH
vec3 follow(vec3 x, int what, float t, float dt) { if (what < 3) return x; dance(t); vec3 q = onPart(what - 3, x); dance(t + dt); return fromPart(what - 3, q); }
vec2 onto(vec3 x, float t) { vec3 d = transpose(lookAt(eye(t), aim)) * (x - eye(t)); return d.z <= 0.0 ? vec2(9) : rot(-sway(t)) * (d.xy / d.z * 1.15); }
#endif
vec3 scene(vec2 p, float t) {
  p = rot(sway(t)) * p; vec3 ro = eye(t); vec3 rd = lookAt(ro, aim) * normalize(vec3(p, 1.15));
  dance(t);
  vec3 lamp = vec3(-2.2, 2.4, -0.9); vec3 col; float dist = 1e3; float what; float tf = figureMarch(ro, rd, what);
  if (rd.y > -0.002) col = sky(rd); else col = sea(ro, rd, t);
  float land = 0.018 + 0.02 * fbm(vec2(rd.x / rd.z * 6.0, 1.0), 4); float el = rd.y / length(rd.xz); if (el > 0.0 && el < land) { col = mix(col * 0.25, vec3(0.02, 0.018, 0.025), 0.7); float lit = step(0.965, hash2(vec2(rd.x / rd.z * 150.0, el * 260.0))); col += lit * warm(0.8) * 0.9; }
  float td = -ro.y / min(rd.y, -1e-3); vec3 q = ro + rd * td;
  float zr = (2.2 - ro.z) / rd.z; vec3 rp = ro + rd * zr;
  if (rd.y < 0.0 && td > 0.0 && q.z < 2.35) {
    float pl = q.x / 0.16; float id = floor(pl); float gap = smoothstep(0.5, 0.44, abs(fract(pl) - 0.5)); float gr = fbm(vec2(q.x * 40.0, q.z * 2.2 + id * 7.0), 4);
    vec3 alb = vec3(0.20, 0.13, 0.085) * (0.55 + 0.9 * gr) * (0.7 + 0.5 * hash1(id)) * (0.25 + 0.75 * gap); float wet = smoothstep(0.42, 0.62, fbm(q.xz * 1.7 + 4.0, 4));
    vec3 l = lamp - q; float ld = length(l); l /= ld; float sh = figureShadow(q + vec3(0, 0.01, 0), l, 14.0); float ao = 1.0 - 0.65 * exp(-6.0 * length(q.xz - jHip.xz));
    vec3 n = normalize(vec3((gr - 0.45) * 0.25 * (1.2 - wet), 1.0, (noise(q.xz * 30.0) - 0.5) * 0.12)); col = alb * (warm(0.55) * 5.5 * max(dot(n, l), 0.0) / (ld * ld) * sh + vec3(0.16, 0.21, 0.34) * ao * 0.8);
    vec3 r = reflect(rd, normalize(mix(n, vec3(0, 1, 0), 0.75))); float fr = (0.04 + 0.7 * pow(1.0 - max(dot(n, -rd), 0.0), 3.0)) * mix(0.25, 1.0, wet); vec3 rc = sky(r); float rw; float rt = figureMarch(q + vec3(0, 0.02, 0), r, rw); if (rt > 0.0) rc = vec3(0.03, 0.025, 0.03); else rc += lamps(q, r, t) * 0.8; col += rc * fr * gap; dist = td; gObject = 1; gPoint = q;
  } else if (zr > 0.0 && rp.y < 1.06 && rp.y > -0.2) {
    float post = abs(fract(rp.x / 1.1) - 0.5) * 1.1; float rail = min(abs(rp.y - 1.0) - 0.03, min(abs(rp.y - 0.66) - 0.013, abs(rp.y - 0.34) - 0.013)); rail = min(rail, 0.5 - 0.5 + (0.52 - post) * 0.0 + abs(post - 0.0) - 0.025);
    if (rail < 0.0) { vec3 l = normalize(lamp - rp); col = vec3(0.55, 0.5, 0.46) * (0.6 + 0.6 * noise(rp.xy * 30.0)) * (warm(0.5) * 0.9 * max(0.2 + 0.5 * l.y, 0.0) / dot(lamp - rp, lamp - rp) * 4.0 + vec3(0.1, 0.13, 0.22)); dist = zr; gObject = 2; gPoint = rp; }
  }
  if (tf > 0.0 && tf < dist) {
    gMatte = 1.0; vec3 x = ro + rd * tf, n = figureNormal(x), l = lamp - x; float ld = length(l); l /= ld; vec3 alb = figureAlbedo(x, what, vec3(0.32, 0.05, 0.06), vec3(0.05, 0.06, 0.085)); float ao = figureOcclusion(x, n); gObject = 3 + partOf(x); gPoint = x;
    float wrap = what < 0.5 ? 0.25 : 0.05; float dif = max((dot(n, l) + wrap) / (1.0 + wrap), 0.0) * figureShadow(x + n * 0.012, l, 12.0); vec3 h = normalize(l - rd); float spec = pow(max(dot(n, h), 0.0), what < 0.5 ? 24.0 : 60.0) * (what < 0.5 ? 0.25 : 0.12);
    col = alb * (warm(0.6) * 6.5 * dif / (ld * ld) + vec3(0.16, 0.2, 0.34) * (0.5 + 0.5 * n.y) * ao + vec3(0.5, 0.2, 0.1) * 0.35 * max(n.z, 0.0) * ao) + warm(0.7) * spec * 4.0 * dif / (ld * ld); float rim = pow(1.0 - max(dot(n, -rd), 0.0), 3.0); col += sky(reflect(rd, n)) * rim * 0.35 * ao;
    if (what > 0.5 && what < 1.5) col += 1.4 * warm(0.8) * step(0.985, hash3(floor(onBody(x) * 42.0))) * pow(max(dot(n, h), 0.0), 4.0);
  }
  return col + lamps(ro, rd, t) * 0.9;
}
