/**
 * Programs of the graphics processor. Coordinates come in scene units; `view` is scale and shift to CSS pixels,
 * `size` the canvas in CSS pixels.
 */

const common = `#version 300 es
precision highp float;
precision highp int;
uniform vec4 view;
uniform vec2 size;
uniform float parts;
uniform sampler2D styles;
uniform vec4 ghost;

// Two texels a style: colour and opacity; half width in pixels, dash period in scene units, row of the dash, shown.
vec4 styleOf(uint n, int k) { int i = int(n) * 2 + k; return texelFetch(styles, ivec2(i & 511, i >> 9), 0); }
vec2 onScreen(vec2 p) { return p * view.xy + view.zw; }
vec4 clip(vec2 s, uint part) { return vec4(s.x / size.x * 2.0 - 1.0, 1.0 - s.y / size.y * 2.0, 1.0 - (float(part) + 1.0) / parts * 1.9, 1.0); }
`;

/** Plain lines, one pixel wide. */
export const lineVertex = `${common}
layout(location = 0) in vec2 at;
layout(location = 1) in uint style;
layout(location = 2) in uint part;
layout(location = 3) in float along;
out vec4 ink;
out float run;
flat out vec2 dash;
void main() {
  vec4 colour = styleOf(style, 0), pen = styleOf(style, 1);
  gl_Position = pen.w < 0.5 ? vec4(2.0, 2.0, 2.0, 1.0) : clip(onScreen(at), part);
  ink = ghost.a > 0.0 ? ghost : colour;
  run = along;
  dash = pen.y * view.x > 3.0 ? vec2(pen.y, pen.z) : vec2(0.0);
}`;

/** Lines as wide as their pen: four corners a segment. */
export const wideVertex = `${common}
layout(location = 0) in vec4 ends;
layout(location = 1) in uint style;
layout(location = 2) in uint part;
layout(location = 3) in float along;
out vec4 ink;
out float run;
out float side;
flat out float reach;
flat out vec2 dash;
void main() {
  vec4 colour = styleOf(style, 0), pen = styleOf(style, 1);
  vec2 a = onScreen(ends.xy), b = onScreen(ends.zw), d = b - a;
  float l = length(d);
  vec2 u = l > 0.0 ? d / l : vec2(1.0, 0.0), n = vec2(-u.y, u.x);
  float half_ = max(pen.x < 0.0 ? -pen.x * view.x : pen.x, 0.5);
  bool last = gl_VertexID >= 2;
  float s = (gl_VertexID & 1) == 0 ? -1.0 : 1.0;
  // A little longer at both ends, so that corners close.
  vec2 p = (last ? b + u * min(half_, 1.0) : a - u * min(half_, 1.0)) + n * s * (half_ + 0.6);
  gl_Position = pen.w < 0.5 ? vec4(2.0, 2.0, 2.0, 1.0) : clip(p, part);
  ink = ghost.a > 0.0 ? ghost : colour;
  run = along + (last ? l / view.x : 0.0);
  side = s * (half_ + 0.6);
  reach = half_;
  dash = pen.y * view.x > 3.0 ? vec2(pen.y, pen.z) : vec2(0.0);
}`;

const dashes = `
uniform sampler2D rows;
bool gap(float run, vec2 dash) { return dash.x > 0.0 && texelFetch(rows, ivec2(int(fract(run / dash.x) * 127.99), int(dash.y)), 0).r < 0.5; }
`;

export const lineFragment = `#version 300 es
precision highp float;
in vec4 ink;
in float run;
flat in vec2 dash;
out vec4 colour;
${dashes}
void main() {
  if (gap(run, dash)) discard;
  colour = vec4(ink.rgb * ink.a, ink.a);
}`;

export const wideFragment = `#version 300 es
precision highp float;
in vec4 ink;
in float run;
in float side;
flat in float reach;
flat in vec2 dash;
out vec4 colour;
${dashes}
void main() {
  if (gap(run, dash)) discard;
  float a = ink.a * clamp(reach + 0.5 - abs(side), 0.0, 1.0);
  if (a < 0.01) discard;
  colour = vec4(ink.rgb * a, a);
}`;

export const fillVertex = `${common}
layout(location = 0) in vec2 at;
layout(location = 1) in uint style;
layout(location = 2) in uint part;
out vec4 ink;
void main() {
  vec4 colour = styleOf(style, 0), pen = styleOf(style, 1);
  gl_Position = pen.w < 0.5 ? vec4(2.0, 2.0, 2.0, 1.0) : clip(onScreen(at), part);
  ink = ghost.a > 0.0 ? vec4(ghost.rgb, ghost.a * 0.35) : colour;
}`;

export const fillFragment = `#version 300 es
precision highp float;
in vec4 ink;
out vec4 colour;
void main() { colour = vec4(ink.rgb * ink.a, ink.a); }`;
