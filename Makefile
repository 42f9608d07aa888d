# make demo · make test · make dev · make bench : see README.md
SHELL := /bin/bash
.DEFAULT_GOAL := help
WEB := web
BUILD := .build
STAMPS := $(BUILD)/stamps
GO_SOURCES := $(shell find core draw demo internal cmd \( -name "*.go" -o -name "*.sql" -o -path "*samples*.json" -o -path "*profiles*.json" -o -path "*chemistries*.json" -o -name hostel.json \) -type f 2>/dev/null) web/embed.go web/embed_none.go go.mod go.sum
PAGE_SOURCES := $(shell find $(WEB)/src $(WEB)/public -type f ! -name core.wasm ! -name wasm_exec.js 2>/dev/null) $(WEB)/index.html $(WEB)/vite.config.ts $(wildcard $(WEB)/tsconfig*.json) scripts/brotli.mjs

help:
	@echo "make demo    serve a made-up job on http://127.0.0.1:8080"
	@echo "make test    every check: Go, page, browser"
	@echo "make layout  every view at every size, in both themes"
	@echo "make bench   measure speed, memory and the first load"
	@echo "make fuzz    hostile inputs to every operation and reader"
	@echo "make torture kill server and database while devices deliver"
	@echo "make dev     serve with hot reload of the page"

$(STAMPS):
	@mkdir -p $@

# Installs what is missing from Debian's packages and says so first; needs no root when all
# is there. The system's own database service is kept from starting.
$(STAMPS)/database: | $(STAMPS)
	@scripts/need mariadbd mariadb-server
	@touch $@

$(STAMPS)/browser: | $(STAMPS)
	@scripts/need chromium chromium
	@touch $@

$(STAMPS)/paper: | $(STAMPS)
	@scripts/need pdftotext poppler-utils
	@touch $@

$(STAMPS)/npm: $(WEB)/package-lock.json | $(STAMPS)
	cd $(WEB) && npm ci --no-audit --no-fund --loglevel=error
	ln -sfn ../$(WEB)/node_modules e2e/node_modules
	@touch $@

# Nothing is inlined: a seventh less to send, and the browser has it running sooner.
$(WEB)/src/core/core.wasm: $(GO_SOURCES) scripts/lean.mjs
	cp "$$(go env GOROOT)/lib/wasm/wasm_exec.js" $(WEB)/src/core/wasm_exec.js
	GOOS=js GOARCH=wasm go build -trimpath -ldflags="-s -w" -gcflags=all=-l -o $@ ./cmd/dusha-wasm
	node scripts/lean.mjs $@

$(WEB)/dist/index.html: $(STAMPS)/npm $(WEB)/src/core/core.wasm $(PAGE_SOURCES)
	cd $(WEB) && npx vite build --logLevel warn
	find $(WEB)/dist -type f \( -name '*.js' -o -name '*.css' -o -name '*.html' -o -name '*.svg' -o -name '*.json' -o -name '*.wasm' \) -exec gzip -9 -k -n -f {} + -exec node scripts/brotli.mjs {} +

$(BUILD)/dusha: $(WEB)/dist/index.html $(GO_SOURCES)
	go build -tags page -trimpath -o $@ ./cmd/dusha

build: $(BUILD)/dusha

demo: $(STAMPS)/database $(BUILD)/dusha
	$(BUILD)/dusha demo

# The page with hot reload on 5173, the demo's API behind it on 8080.
dev: $(STAMPS)/database $(STAMPS)/npm $(WEB)/src/core/core.wasm
	@go build -o $(BUILD)/dusha-dev ./cmd/dusha
	@trap 'kill 0' EXIT; $(BUILD)/dusha-dev demo --listen 127.0.0.1:8080 & cd $(WEB) && npx vite

# What is generated and kept: the description of the API, and the page's types of it.
api:
	go run ./cmd/dusha openapi > api/openapi.json
	go run ./cmd/dusha schemas api
	cd $(WEB) && npm run --silent types

$(STAMPS)/vet: $(GO_SOURCES) tools.mod scripts/reached scripts/reached.list | $(STAMPS)
	test -z "$$(gofmt -l core draw demo internal cmd bench web/*.go)" || { gofmt -l core draw demo internal cmd bench; exit 1; }
	go vet ./...
	GOOS=js GOARCH=wasm go vet ./cmd/dusha-wasm
	go tool -modfile=tools.mod staticcheck ./...
	scripts/reached
	@touch $@

test-go: $(STAMPS)/database $(STAMPS)/paper $(STAMPS)/vet
	go test ./...
	go test -count=1 ./core # who imports whom is no input that the cache sees

$(STAMPS)/types: api/openapi.json $(WEB)/src/data/api.d.ts $(STAMPS)/npm | $(STAMPS)
	cd $(WEB) && npx openapi-typescript ../api/openapi.json -o ../$(BUILD)/api.d.ts > /dev/null
	cmp $(BUILD)/api.d.ts $(WEB)/src/data/api.d.ts || { echo "web/src/data/api.d.ts is stale: run make api"; exit 1; }
	@touch $@

$(STAMPS)/lint: $(PAGE_SOURCES) $(wildcard e2e/*.ts) $(WEB)/eslint.config.js $(STAMPS)/types $(WEB)/src/core/core.wasm | $(STAMPS)
	cd $(WEB) && npm run --silent format && npm run --silent check && npm run --silent lint
	@touch $@

test-page: $(STAMPS)/lint

test-e2e: $(STAMPS)/browser $(STAMPS)/database $(STAMPS)/paper $(BUILD)/dusha
	cd e2e && npx playwright test

# Every view at every size, in both themes: nothing over anything, nothing cut, nothing too small; axe on all of them, first
# days by keys and touch, and what outlives Esc, Back and a reload.
# DUSHA_SHEETS=folder keeps a picture of each.
layout: $(STAMPS)/browser $(STAMPS)/database $(BUILD)/dusha
	cd e2e && DUSHA_LAYOUT=1 npx playwright test layout look firstday middle

# Takes the pictures of docs/screenshots again.
pictures: $(STAMPS)/browser $(STAMPS)/database $(BUILD)/dusha
	mkdir -p docs/screenshots
	cd e2e && DUSHA_PICTURES=1 npx playwright test pictures

test:
	@$(MAKE) --no-print-directory -j2 --output-sync=target test-go test-page build
	@$(MAKE) --no-print-directory test-e2e
	@echo "All checks passed."

# Measurements: ratios of two sides that alternate in one process; see bench/.
bench: $(STAMPS)/browser $(STAMPS)/database $(BUILD)/dusha
	go run ./bench
	node bench/keys.mjs
	node bench/taps.mjs
	cd e2e && npx playwright test pack # answers and taps from a printed page to an accepted plan
	node bench/felt.mjs
	node bench/cut.mjs
	node bench/load.mjs

# Hostile inputs to every operation and every reader for FUZZ seconds, 300 if it is not said.
FUZZ ?= 300
fuzz: $(STAMPS)/database
	@scripts/fuzz $(FUZZ)

# Kills server and database at 30 random moments while four devices deliver.
torture: $(STAMPS)/database
	DUSHA_TORTURE=30 go test ./cmd/dusha -run TestTorture -v -count=1 -timeout 15m

clean:
	rm -rf $(BUILD) $(WEB)/dist test-results

.PHONY: help build demo dev api layout pictures bench fuzz torture test test-go test-page test-e2e clean
