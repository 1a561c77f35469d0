# The two commands are `make demo` and `make test`; the rest are their parts.
.DEFAULT_GOAL := help
.PHONY: help demo test install install-tests build generate checks lint lint-go lint-web test-go test-web test-e2e package several bench soak walk worlds fuzz screenshots clean

# gin would list its routes whenever a test fails.
export GIN_MODE := release
WITH_POSTGRES := bin/jundle with-postgres --data .data/test --
# Their tests run with the race detector, and those that measure without it.
RACY := internal/ingest internal/public internal/service internal/studio

help: ## Say what there is to do
	@awk -F':.*## ' '/^[a-z-]+:.*## /{printf "  make %-14s %s\n", $$1, $$2}' Makefile

demo: install build ## Install what is missing, build, and serve the demo
	@bin/jundle demo

test: install-tests build checks test-go test-e2e ## Run every suite, the browser included
	@echo "All suites passed."

# What needs no database goes side by side.
checks:
	@$(MAKE) --no-print-directory -j2 --output-sync=target lint-go lint-web test-web

install: ## Install what the demo needs
	@scripts/install

install-tests: ## Install what the tests need as well
	@scripts/install --tests

build: ## Build the studio and the program
	@echo "Building the studio"
	@cd web && npx --no-install vite build --logLevel warn
	@echo "Building the program"
	@go build -o bin/jundle ./cmd/jundle

generate: ## Make the TypeScript types anew from the API's contract
	@mkdir -p .data
	@go run ./cmd/jundle openapi > .data/openapi.json
	@cd web && npx --no-install openapi-typescript ../.data/openapi.json -o src/api/generated/schema.ts

lint: lint-go lint-web ## Check form, types and generated code

lint-go:
	@echo "Checking Go"
	@test -z "$$(go tool gofumpt -l bench cmd docs internal web/embed.go)" || { echo "These files want gofumpt:"; go tool gofumpt -l bench cmd docs internal web/embed.go; exit 1; }
	@go vet ./...
	@go tool staticcheck ./...

lint-web:
	@echo "Checking TypeScript and Vue"
	@cd web && npx --no-install prettier --check --log-level warn . && npx --no-install eslint . && npx --no-install vue-tsc --noEmit
	@cd e2e && npx --no-install prettier --check --log-level warn . && npx --no-install tsc --noEmit
	@echo "Checking that the generated types are those of the contract"
	@mkdir -p .data && bin/jundle openapi > .data/openapi.json
	@cd web && npx --no-install openapi-typescript ../.data/openapi.json -o ../.data/schema.ts >/dev/null 2>&1
	@cmp .data/schema.ts web/src/api/generated/schema.ts || { echo "Run make generate and commit the result."; exit 1; }

test-go: ## Run the Go tests on a private PostgreSQL
	@echo "Testing Go"
	@$(WITH_POSTGRES) go test -timeout 20m $$(go list ./... | grep -vE "/($$(echo $(RACY) | tr ' ' '|'))(/|$$)")
	@echo "Testing Go with the race detector"
	@$(WITH_POSTGRES) go test -timeout 20m -race -short $(RACY:%=./%/...)
	@echo "Testing what measures, without it"
	@$(WITH_POSTGRES) go test -timeout 20m -run "$$(scripts/measured-tests $(RACY))" $(RACY:%=./%/...)

test-web: ## Run the unit tests of the studio
	@echo "Testing the studio"
	@cd web && npx --no-install vitest run

test-e2e: ## Drive the real thing in Chromium
	@echo "Driving the studio and the pages in Chromium"
	@cd e2e && ../$(subst .data,../.data,$(WITH_POSTGRES)) npx --no-install playwright test

several: install-tests build ## Serve the demo by three processes behind nginx, to kill one and see
	@scripts/several

package: build ## Make the Debian package, and try it in a root of its own
	@scripts/package

bench: install-tests build ## Measure what should be quick, and print the figures
	@scripts/install --bench
	@go build -o bin/bench ./bench
	@$(WITH_POSTGRES) bin/bench
	@cd e2e && ../$(subst .data,../.data,$(WITH_POSTGRES)) npx --no-install playwright test --config bench.config.ts

bench-months: install-tests build ## Measure readings of millions of events over thirteen months; EVENTS="1000000 10000000" compares
	@go build -o bin/bench-months ./bench/months
	@bin/jundle with-postgres --data .data/months -- bin/bench-months $${EVENTS:-10000000}

costs: build ## Hold every operation and public path to what a request may cost, and print those that cost most
	@$(WITH_POSTGRES) go test -p 1 -count 1 -v -run CostsMoreThanItMay ./internal/public ./internal/studio

soak: install-tests build ## Serve visitors for a quarter of an hour while a second account does its worst
	@$(WITH_POSTGRES) go run ./bench/soak 15m

walk: install-tests build ## Do 2,000 random things on a bad line, from ten seeds; nothing typed may be lost
	@cd e2e && WALK_STEPS=2000 WALK_SEEDS=$${WALK_SEEDS:-1,2,3,4,5,6,7,8,9,10} ../$(subst .data,../.data,$(WITH_POSTGRES)) npx --no-install playwright test walk.spec.ts walk-of-two.spec.ts

worlds: ## Hold readings, advice, trials and alarms against 200 made-up worlds whose true values are known
	@go run ./bench/worlds

fuzz: ## Try every parser of text from outside with made-up input, five minutes each
	@scripts/fuzz 5m

screenshots: ## Take docs/screenshots anew; wants the demo running, as e2e/screenshots.mjs says
	@cd e2e && node screenshots.mjs

clean: ## Remove what was built and the data of demo and tests
	rm -rf bin .data web/dist/assets web/dist/index.html
