# The application as one image: the page server by default, the worker with another command (see compose.yaml).
FROM node:20-bookworm-slim

RUN apt-get update \
  && apt-get install -y --no-install-recommends ffmpeg \
  && rm -rf /var/lib/apt/lists/*

WORKDIR /srv/wabisabi
COPY package.json package-lock.json ./
# Not `npm ci`: it wants optional packages of other platforms, which the lock file does not name.
RUN npm install --no-audit --no-fund
COPY . .
RUN ASTRO_TELEMETRY_DISABLED=1 npx astro build --silent \
  && node scripts/bundle.mjs server/worker.ts dist-worker \
  && mkdir -p /data \
  && chown node:node /data

ENV NODE_ENV=production \
  WABISABI_ROOT=/srv/wabisabi \
  WABISABI_DATA=/data \
  HOST=0.0.0.0 \
  PORT=4321
USER node
VOLUME /data
EXPOSE 4321
CMD ["node", "server/serve.mjs"]
