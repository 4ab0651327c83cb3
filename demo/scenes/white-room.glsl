// A figure turns slowly before a white wall; portrait format.
const vec3 eye = vec3(0.0, 1.08, -3.6), aim = vec3(0.0, 0.93, 0.0);
void turning(float t) {
  float a = t * 1.15; float s = sin(t * 1.9), c = cos(t * 1.3); pose(vec3(0.03 * s, 0.87, 0.0), PI + a, vec2(0.12 * s, 0.05 * c), vec3(-0.30, -0.12 + 0.34 * s, 0.16), vec3(0.30, 0.10 - 0.36 * s, 0.12 * c), vec3(-0.11, 0.0, 0.07), vec3(0.11, max(0.0, 0.06 * c), -0.06), 0.3 * s);
}
#ifdef TRUTH
// 1 the room, from 3 on the figure's parts.
vec3 follow(vec3 x, int what, float t, float dt) { if (what < 3) return x; turning(t); vec3 q = onPart(what - 3, x); turning(t + dt); return fromPart(what - 3, q); }
vec2 onto(vec3 x, float t) { vec3 d = transpose(lookAt(eye, aim)) * (x - eye); return d.z <= 0.0 ? vec2(9) : d.xy / d.z * 1.62; }
#endif
vec3 scene(vec2 p, float t) {
  vec3 ro = eye; vec3 rd = lookAt(ro, aim) * normalize(vec3(p, 1.62)); turning(t);
  vec3 L = normalize(vec3(-0.55, 0.9, -0.6)); vec3 col; float dist = 1e3; float curve = 0.55; float zw = 1.55; float tw = (zw - ro.z) / rd.z; float tfl = -ro.y / min(rd.y, -1e-4); vec3 q; vec3 n;
  if (rd.y < 0.0 && tfl < tw) { q = ro + rd * tfl; n = vec3(0, 1, 0); dist = tfl; } else { q = ro + rd * tw; n = vec3(0, 0, -1); dist = tw; }
  gObject = 1; gPoint = q; float blend = smoothstep(0.0, curve, q.y) ; if (q.y < curve * 0.01) blend = smoothstep(zw - curve, zw, q.z) * 0.5; n = normalize(mix(vec3(0, 1, 0), vec3(0, 0, -1), blend * 0.9)); float fall = 1.0 - 0.20 * length((p - vec2(-0.08, 0.12)) * vec2(1.0, 0.8)); float tex = 0.97 + 0.03 * fbm(q.xy * 9.0 + q.z, 4) + 0.02 * (noise(q.xy * 120.0) - 0.5); float sh = figureShadow(q + n * 0.01, L, 3.5); float ao = q.y < 0.02 ? 1.0 - 0.6 * exp(-6.5 * length(q.xz - jHip.xz)) : 1.0; col = vec3(0.93, 0.92, 0.90) * fall * tex * (0.42 * ao + 0.60 * mix(0.35, 1.0, sh)); if (q.y < 0.02) col *= 0.94 + 0.06 * smoothstep(0.3, 0.6, fbm(q.xz * vec2(3, 12), 4));
  float what; float tf = figureMarch(ro, rd, what); if (tf > 0.0) { gMatte = 1.0; vec3 x = ro + rd * tf; n = figureNormal(x); gObject = 3 + partOf(x); gPoint = x; vec3 alb = figureAlbedo(x, what, vec3(0.045, 0.05, 0.06), vec3(0.028, 0.028, 0.033)); float o = figureOcclusion(x, n); float wrap = what < 0.5 ? 0.25 : 0.0; float dif = max((dot(n, L) + wrap) / (1.0 + wrap), 0.0) * figureShadow(x + n * 0.012, L, 9.0); col = alb * (vec3(1.05, 1.0, 0.95) * dif * 1.25 + vec3(0.62, 0.64, 0.68) * (0.55 + 0.45 * n.y) * o); vec3 h = normalize(L - rd); col += vec3(0.12) * pow(max(dot(n, h), 0.0), what < 0.5 ? 20.0 : 40.0) * dif; col += vec3(0.8) * pow(1.0 - max(dot(n, -rd), 0.0), 3.5) * 0.16 * o; }
  return col;
}
