// Where what is seen at a pixel's middle, at the middle of the shutter, lies a frame later (or earlier): moved by so many
// pixels right and down; what it is; whether it is seen there.
uniform float uStep;
void main() {
  float t = uTime0 + 0.5 * uShutter; vec2 p = (gl_FragCoord.xy - uSize * 0.5) / uSize.y;
  gObject = 0; scene(p, t); int what = gObject; vec3 x = gPoint;
  if (what == 0) { outColour = vec4(0); return; }
  vec3 y = follow(x, what, t, uStep); vec2 q = onto(y, t + uStep);
  gObject = 0; scene(q, t + uStep);
  bool inside = abs(q.x) < 0.5 * uSize.x / uSize.y && abs(q.y) < 0.5;
  bool seen = inside && gObject == what && length(gPoint - y) < 0.05;
  outColour = vec4((q.x - p.x) * uSize.y, (p.y - q.y) * uSize.y, float(what), seen ? 1.0 : 0.0);
}
