# make demo   everything set up and started with demo data
# make test   everything set up and all checks run
# make bench  speed, printed with its references
# make fuzz   hostile bytes at each reader, for a minute each
# make torture  kills at random moments, an hour of many at once, hostile bytes

SHELL := /bin/bash
.DELETE_ON_ERROR:
export PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD = 1

WEB := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/package.json web/vite.config.ts

.PHONY: demo serve build test page types clips accuracy films bench beside fuzz torture clean

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

# How often hooves are found in drawn films, 20 a row, from seeds that nobody has looked at: hours.
films:
	cargo run --release --locked -p umlauf-synth -- films --from 1001500 --into docs/accuracy-films.md

bench: page e2e/node_modules/.package-lock.json
	scripts/need.sh ffmpeg chromium
	$(MAKE) accuracy
	cargo bench --workspace --locked --bench analyse
	$(MAKE) beside
	cargo test --release --locked -p umlauf --test footage_bench --test desk_bench --test scale_bench -- --ignored --nocapture --test-threads 1

# Beats and the camera's way beside librosa and OpenCV, on the same files, one core each.
beside: target/beside/venv/bin/librosa-and-opencv
	cargo build --release --locked -p umlauf-signals --bench beside
	taskset -c 0 cargo bench --locked -p umlauf-signals --bench beside

target/beside/venv/bin/librosa-and-opencv: scripts/beside.txt
	mkdir -p target/beside
	python3 -m venv target/beside/venv || { scripts/need.sh python3-venv && python3 -m venv target/beside/venv; }
	target/beside/venv/bin/pip install --quiet --disable-pip-version-check -r scripts/beside.txt
	touch $@

# Hostile bytes at each reader, FUZZ_RUNS of them or for FUZZ_SECONDS (0: for as long as that takes): coverage comes from
# the stable compiler's own pass.
FUZZ_SECONDS ?= 60
FUZZ_RUNS ?= -1
FUZZ_READERS ?= tables sensors edits settings zips
fuzz: page
	cd fuzz && RUSTFLAGS="-Cpasses=sancov-module -Cllvm-args=-sanitizer-coverage-level=4 \
	  -Cllvm-args=-sanitizer-coverage-inline-8bit-counters -Cllvm-args=-sanitizer-coverage-trace-compares" \
	  cargo build --release --locked --target-dir ../target/fuzz --target $(shell rustc -vV | sed -n 's/^host: //p')
	for reader in $(FUZZ_READERS); do \
	  mkdir -p target/fuzz/corpus/$$reader && \
	  target/fuzz/$(shell rustc -vV | sed -n 's/^host: //p')/release/$$reader -runs=$(FUZZ_RUNS) \
	    -max_total_time=$(FUZZ_SECONDS) -max_len=16384 -timeout=10 -rss_limit_mb=1024 -print_final_stats=1 \
	    target/fuzz/corpus/$$reader fuzz/seeds/$$reader || exit 1; \
	done

# A thousand kills at random moments, an hour of many at once, and hostile bytes.
torture:
	scripts/need.sh ffmpeg
	UMLAUF_KILLS=1000 cargo test --release --locked -p umlauf --test kills -- --nocapture
	cargo test --release --locked -p umlauf --test long_bench -- --ignored --nocapture
	$(MAKE) fuzz FUZZ_RUNS=10000000 FUZZ_SECONDS=0

clean:
	rm -rf target web/dist web/node_modules e2e/node_modules demo-yard
