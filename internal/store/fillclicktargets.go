package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"log/slog"

	"github.com/google/uuid"
	"github.com/pressly/goose/v3"

	"jundle/internal/core/address"
	"jundle/internal/core/page"
	"jundle/internal/core/shortlink"
)

// fillClickTargets notes where clicks led that were kept before that was noted with each: to the destination that
// stands in the edition which was pressed, by the address that it had at that moment. Of short links only where they
// lead now is known. Days are summed up anew for it.
var fillClickTargets = goose.NewGoMigration(47, &goose.GoFunc{RunTx: func(ctx context.Context, tx *sql.Tx) error {
	pressed, err := pressedBefore(ctx, tx)
	if err != nil || len(pressed) == 0 {
		return err
	}
	list, err := json.Marshal(pressed)
	if err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, `
		create temporary table pressed on commit drop as
		select workspace_id, pressed.*, led.address, '' as address_key,
			case row_number() over those when 1 then '-infinity' else led.since end as since,
			coalesce(lead(led.since) over those, 'infinity') as until
		from jsonb_to_recordset($1) as pressed (endpoint_id uuid, edition int, block text, item text, outcome text, destination uuid)
		join endpoints on endpoints.id = endpoint_id
		join destination_addresses led on destination_id = destination
		window those as (partition by endpoint_id, edition, block, item, outcome order by led.since)`, list); err != nil {
		return err
	}
	if err := keyAddresses(ctx, tx); err != nil {
		return err
	}
	for _, statement := range []string{
		`insert into click_targets (workspace_id, destination_id, address, address_key)
		select distinct workspace_id, destination, address, address_key from pressed`,
		`update events set click_target_id = click_targets.id from pressed join click_targets on click_targets.workspace_id = pressed.workspace_id
			and destination_id = destination and md5(click_targets.address) = md5(pressed.address)
		where events.endpoint_id = pressed.endpoint_id and kind = 'click' and events.edition = pressed.edition and events.block = pressed.block
			and events.item = pressed.item and events.outcome = pressed.outcome and at >= since and at < until`,
		`update counted_days set due = true, due_from = now(), failures = 0 where (endpoint_id, utc_day) in (
			select distinct endpoint_id, (at at time zone 'UTC')::date from events where click_target_id is not null)`,
	} {
		if _, err := tx.ExecContext(ctx, statement); err != nil {
			return err
		}
	}
	return nil
}}, nil)

// pressedThing is something that was pressed, and the destination it leads to.
type pressedThing struct {
	Endpoint    uuid.UUID `json:"endpoint_id"`
	Edition     int       `json:"edition"`
	Block       string    `json:"block"`
	Item        string    `json:"item"`
	Outcome     string    `json:"outcome"`
	Destination string    `json:"destination"`
}

// pressedBefore lists what was pressed, each once, with its destination; what has none is left out.
func pressedBefore(ctx context.Context, tx *sql.Tx) ([]pressedThing, error) {
	rows, err := tx.QueryContext(ctx, `
		select distinct endpoint_id, edition, block, item, outcome from events where kind = 'click' order by endpoint_id, edition`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var all []pressedThing
	for rows.Next() {
		var one pressedThing
		if err := rows.Scan(&one.Endpoint, &one.Edition, &one.Block, &one.Item, &one.Outcome); err != nil {
			return nil, err
		}
		all = append(all, one)
	}
	if err := rows.Err(); err != nil {
		return nil, err
	}
	var led []pressedThing
	var find func(pressedThing) string
	var of editionID
	for _, one := range all {
		if id := (editionID{one.Endpoint, one.Edition}); find == nil || id != of {
			if find, err = destinationsOf(ctx, tx, one); err != nil {
				return nil, err
			}
			of = id
		}
		if one.Destination = find(one); one.Destination != "" {
			led = append(led, one)
		}
	}
	return led, nil
}

// destinationsOf finds the destinations of what is pressed on an edition, or by a short link.
func destinationsOf(ctx context.Context, tx *sql.Tx, of pressedThing) (func(pressedThing) string, error) {
	query, args := "select document from editions where page_id = $1 and number = $2", []any{of.Endpoint, of.Edition}
	if of.Outcome != "" {
		query, args = "select link from short_links where id = $1", args[:1]
	}
	var text []byte
	switch err := tx.QueryRowContext(ctx, query, args...).Scan(&text); {
	case err == sql.ErrNoRows:
		return func(pressedThing) string { return "" }, nil
	case err != nil:
		return nil, err
	}
	if of.Outcome != "" {
		var link shortlink.Link
		if err := json.Unmarshal(text, &link); err != nil {
			slog.Error("a short link cannot be read; where its clicks led stays unknown", "link", of.Endpoint, "error", err)
		}
		leads := map[string]string{string(shortlink.Destination): link.DestinationID, string(shortlink.Fallback): link.FallbackID}
		return func(one pressedThing) string { return leads[one.Outcome] }, nil
	}
	var document page.Document
	if err := json.Unmarshal(text, &document); err != nil {
		slog.Error("an edition cannot be read; where its clicks led stays unknown", "page", of.Endpoint, "edition", of.Edition, "error", err)
	}
	return func(one pressedThing) string {
		for _, target := range document.TargetsOf(one.Block) {
			if target.Item == one.Item {
				return target.DestinationID
			}
		}
		return ""
	}, nil
}

// keyAddresses writes the key of each address beside it.
func keyAddresses(ctx context.Context, tx *sql.Tx) error {
	rows, err := tx.QueryContext(ctx, "select distinct address from pressed")
	if err != nil {
		return err
	}
	defer rows.Close()
	var all []string
	for rows.Next() {
		var one string
		if err := rows.Scan(&one); err != nil {
			return err
		}
		all = append(all, one)
	}
	if err := rows.Err(); err != nil {
		return err
	}
	for _, one := range all {
		if _, err := tx.ExecContext(ctx, "update pressed set address_key = $2 where address = $1", one, address.Key(one)); err != nil {
			return err
		}
	}
	return nil
}
