// Light thrown by moving water: a net of bright lines where the surface gathers it, drawn apart a little by colour.
float ridge(vec2 p) { float n = noise(p); return 1.0 - abs(2.0 * n - 1.0); }
float net(vec2 p, float k) {
  vec2 w = vec2(fbm(p * 0.9 + 1.3 * vec2(cos(k), sin(k)), 3), fbm(p * 0.9 + 7.0 + 1.3 * vec2(sin(k), cos(k)), 3)) - 0.45; vec2 q = p + 1.5 * w; float a = ridge(q * 1.15 + 0.55 * vec2(cos(k), -sin(k))), b = ridge(rot(1.1) * q * 1.7 + 0.45 * vec2(-sin(k), cos(k)) + 9.0);
  return 0.62 * pow(a, 7.0) + 0.62 * pow(b, 9.0) + 1.5 * pow(a, 4.0) * pow(b, 4.0);
}
vec3 scene(vec2 p, float t) {
  float k = t * 3.14159; vec2 q = p * 4.2; vec3 c = vec3(net(q + vec2(0.012, 0.006), k), net(q, k), net(q - vec2(0.012, 0.006), k)); float broad = 0.55 + 0.75 * fbm(p * 1.5 + 0.2 * vec2(cos(k), sin(k)), 3); return vec3(0.62, 0.94, 1.0) * (0.003 + 0.62 * c * broad);
}
