package page

// kinds are all kinds of block: of each its name and its field of Block.
var kinds = []kind{
	kindOf("button", func(b *Block) **Button { return &b.Button }),
	kindOf("contact", func(b *Block) **Contact { return &b.Contact }),
	kindOf("heading", func(b *Block) **Heading { return &b.Heading }),
	kindOf("text", func(b *Block) **Text { return &b.Text }),
	kindOf("divider", func(b *Block) **Divider { return &b.Divider }),
	kindOf("space", func(b *Block) **Space { return &b.Space }),
	kindOf("pictures", func(b *Block) **Pictures { return &b.Pictures }),
	kindOf("file", func(b *Block) **File { return &b.File }),
	kindOf("offer", func(b *Block) **Offer { return &b.Offer }),
	kindOf("quote", func(b *Block) **Quote { return &b.Quote }),
	kindOf("player", func(b *Block) **Player { return &b.Player }),
	kindOf("feed", func(b *Block) **Feed { return &b.Feed }),
	kindOf("signup", func(b *Block) **SignUp { return &b.SignUp }),
	kindOf("place", func(b *Block) **Venue { return &b.Place }),
	kindOf("dates", func(b *Block) **Dates { return &b.Dates }),
	kindOf("countdown", func(b *Block) **Countdown { return &b.Countdown }),
	kindOf("questions", func(b *Block) **Questions { return &b.Questions }),
	kindOf("code", func(b *Block) **Code { return &b.Code }),
	kindOf("payment", func(b *Block) **Payment { return &b.Payment }),
	kindOf("booking", func(b *Block) **Booking { return &b.Booking }),
}

type kind struct {
	kind Kind
	// content is what a block holds of the kind, nil when nothing.
	content func(b *Block) Content
	// drop takes it off.
	drop func(b *Block)
	// own makes it the block's own where it shares it with a copy.
	own func(b *Block)
}

func kindOf[P interface {
	*C
	Content
}, C any](name Kind, field func(b *Block) *P) kind {
	return kind{
		kind: name,
		content: func(b *Block) Content {
			if held := *field(b); held != nil {
				return held
			}
			return nil
		},
		drop: func(b *Block) { *field(b) = nil },
		own: func(b *Block) {
			if held := *field(b); held != nil {
				copied := *held
				*field(b) = &copied
			}
		},
	}
}

// Kinds names all kinds of block.
func Kinds() []Kind {
	names := make([]Kind, len(kinds))
	for i, each := range kinds {
		names[i] = each.kind
	}
	return names
}
