# make demo   everything set up and started with demo data
# make test   everything set up and all checks run
# make bench  speed, printed with its references

SHELL := /bin/bash
.DELETE_ON_ERROR:
export PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD = 1

WEB := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/package.json web/vite.config.ts

.PHONY: demo serve build test lint page types clips accuracy bench clean

demo: build
	target/release/umlauf demo --data demo-yard

serve: build
	target/release/umlauf serve

build: page
	scripts/need.sh ffmpeg
	cargo build --release --locked -p umlauf

page: web/dist/index.html

web/dist/index.html: web/node_modules/.package-lock.json $(WEB)
	cd web && npx vite build --logLevel warn
	touch $@

web/node_modules/.package-lock.json: web/package-lock.json
	scripts/need.sh
	cd web && npm ci --no-audit --no-fund
	touch $@

e2e/node_modules/.package-lock.json: e2e/package-lock.json
	cd e2e && npm ci --no-audit --no-fund
	touch $@

test: page e2e/node_modules/.package-lock.json
	scripts/need.sh ffmpeg chromium
	cargo fmt --check
	cd web && npm run check && npm test
	cd e2e && npm run check
	cargo clippy --workspace --all-targets --locked -- -D warnings
	cargo build --workspace --locked
	$(MAKE) types-fresh
	cargo test --workspace --locked

# The page's types come from the server's OpenAPI document and must not drift from it.
types:
	cargo run -q --locked -p umlauf -- openapi > web/openapi.json
	cd web && npm run --silent types

.PHONY: types-fresh
types-fresh:
	cp web/src/api/schema.d.ts target/schema-committed.d.ts
	$(MAKE) types
	diff -u target/schema-committed.d.ts web/src/api/schema.d.ts \
	  || { echo "web/src/api/schema.d.ts is not what the server says: run 'make types' and commit it"; exit 1; }

# Remakes the demo clips and their truth tables from their seeds.
clips:
	scripts/need.sh ffmpeg
	cargo run --release --locked -p umlauf-synth -- clips --into demo

# How often the analysis is right: 2,000 synthetic rides a row.
accuracy:
	cargo run --release --locked -p umlauf-synth -- accuracy --into docs/accuracy.md

bench: page e2e/node_modules/.package-lock.json
	scripts/need.sh ffmpeg chromium
	$(MAKE) accuracy
	cargo bench --workspace --locked
	cargo test --release --locked -p umlauf --test footage_bench -- --ignored --nocapture --test-threads 1

clean:
	rm -rf target web/dist web/node_modules e2e/node_modules demo-yard
