package starters

import "jundle/internal/core/page"

var starters = []Starter{
	{"maker", "Makers and potters", "A small shop, dates people can come on, and a letter.", func(name string) page.Document {
		return withIcons(begin(name, "Made by hand, a few pieces at a time.", "maker", "celadon",
			button("What is in the shop now", "New pieces on the first of the month", "shop", "shopping-bag"),
			offer("Bowl, deep", "Holds soup for one", "32", "bowl"),
			offer("Vase, tall", "For a single branch", "58", "vase"),
			button("Open studio days", "Come in, look around, stay for tea", "open-days", "calendar-days"),
			button("Get my letter", "Four times a year, before each sale", "letter", "mail-open"),
			mail("Ask me to make something", "A commission"),
		), "above", "Pictures:camera", "Films:clapperboard", "Shop:store")
	}},
	{"musician", "Musicians and bands", "The new song on top, then where to hear you play.", func(name string) page.Document {
		doc := begin(name, "New song out now.", "musician", "night-firing",
			labelled(button("Hear the new song", "Three minutes and eleven seconds", "new-song", "audio-lines"), "new"),
			heading("On stage"),
			button("12 March, The Old Ferry", "Doors at eight", "tickets-ferry", "ticket"),
			button("29 March, Mill Hall", "With friends", "tickets-mill", "ticket"),
			heading("At home"),
			button("All songs and words", "", "songs", "disc-3"),
			button("Shirts and records", "", "shop", "shirt"),
			mail("Book us", "A booking"),
		)
		doc.Blocks[0].Button.Movement = "glow"
		return withIcons(doc, "above", "Songs:list-music", "Films:clapperboard", "Pictures:camera")
	}},
	{
		"teacher", "Teachers and workshops", "Seats to book, what to bring, and an answer to the usual questions.",
		func(name string) page.Document {
			return withIcons(begin(name, "Classes for people who think they cannot.", "teacher", "cobalt",
				labelled(button("Book a seat: beginners’ weekend", "Two days, six seats", "beginners", "armchair"), "€180"),
				labelled(button("Book a seat: Thursday evenings", "Six weeks, from seven to nine", "thursdays", "moon"), "€150"),
				button("A class as a present", "They choose the day", "gift", "gift"),
				heading("Before you come"),
				text("Wear what may get dirty. <strong>Lunch is included</strong>; tell me what you do not eat."),
				button("How to find us", "", "map", "map-pin"),
				mail("Ask me anything", "A question about a class"),
			), "below", "Pictures:camera", "Boards:pin")
		},
	},
	{"kitchen", "Bakeries and kitchens", "Today’s list, a table, and a number that is answered.", func(name string) page.Document {
		return withIcons(begin(name, "Bread from six, cake from ten.", "kitchen", "apricot",
			button("What there is today", "Written every morning", "today", "chef-hat"),
			button("Order for tomorrow", "Until four in the afternoon", "order", "shopping-basket"),
			call("Ring us"),
			button("Where we are, and when", "Tuesday to Saturday", "hours", "clock"),
			quote("The crust alone is worth the walk.", "a neighbour"),
		), "below", "Pictures:camera", "Map:map-pin")
	}},
	{"photographer", "Photographers", "Three pieces of work, prices, and dates still free.", func(name string) page.Document {
		return withIcons(begin(name, "People as they are.", "photographer", "slate",
			button("See the portfolio", "Forty pictures", "portfolio", "images"),
			button("Prices, all of them", "No asking needed", "prices", "tag"),
			button("Dates still free", "", "dates", "calendar-check"),
			quote("We forgot the camera was there.", "M. and L., October"),
			mail("Ask about your day", "Pictures of our day"),
		), "above", "Pictures:camera", "Boards:pin", "Films:clapperboard")
	}},
	{"writer", "Writers and hosts", "The newest piece, the archive, and the letter that brings them.", func(name string) page.Document {
		return begin(name, "Essays on small things, every other Sunday.", "writer", "linen",
			labelled(button("Read the newest", "On waiting for kettles", "newest", "book-open"), "6 min"),
			button("Get it by letter", "Every other Sunday, never more", "letter", "mail-open"),
			button("Everything so far", "Eighty pieces, by year", "archive", "library"),
			button("The book", "In every shop that still has a bell", "book", "bookmark"),
			text("I also read aloud. If your town has a hall and a lamp, write to me."),
			mail("Write to me", "A reading"),
		)
	}},
	{"salon", "Salons and studios", "Booking first, then prices and the way there.", func(name string) page.Document {
		return withIcons(begin(name, "By appointment, and now and then by luck.", "salon", "terrazzo",
			button("Book an hour", "Next free: see the calendar", "book", "calendar-plus"),
			button("What things cost", "", "prices", "receipt"),
			call("Ring us"),
			heading("For at home"),
			offer("Soap, plain", "No scent at all", "9", ""),
			offer("Brush", "Wood and bristle", "24", ""),
			button("The way here", "Second door past the bridge", "map", "map-pin"),
		), "below", "Pictures:camera")
	}},
	{"coach", "Coaches and sports", "A plan to begin with, sessions to join, results to show.", func(name string) page.Document {
		doc := begin(name, "You do the running. I do the counting.", "coach", "signal",
			button("Begin here: the six-week plan", "Free, as a PDF", "plan", "map"),
			labelled(button("Train with me", "Mondays and Thursdays at seven", "sessions", "timer"), "€12"),
			button("One hour, only you", "", "private", "user-round-check"),
			quote("I ran for the bus, and caught it.", "Ana, week five"),
			mail("Ask for a place", "A place in the group"),
		)
		return withIcons(doc, "above", "Films:clapperboard", "Pictures:camera")
	}},
	{"club", "Clubs and good causes", "What is on, how to help, and who to ask.", func(name string) page.Document {
		return withIcons(begin(name, "Everybody welcome, children and dogs included.", "club", "harbour",
			button("What is on this month", "", "calendar", "calendar-days"),
			button("Lend a hand", "Two hours on a Saturday are plenty", "help", "hand-heart"),
			button("Give something", "It goes into the roof", "give", "coins"),
			heading("Who we are"),
			text("We are forty people and one kettle. We meet on the first Tuesday, in the hall."),
			mail("Ask us", "A question"),
		), "below", "Pictures:camera", "News:newspaper")
	}},
}
