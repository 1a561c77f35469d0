package domain

import "time"

// Answer is what a look into the DNS says to a question.
type Answer string

// Answers. Unknown: nobody answered, or nobody could.
const (
	Yes     Answer = "yes"
	No      Answer = "no"
	Unknown Answer = "unknown"
)

// DNSFound is what a look into the DNS showed.
type DNSFound struct {
	Proof  Answer `json:"proof" enum:"yes,no,unknown" doc:"Whether the proof stands there."`
	Points Answer `json:"points" enum:"yes,no,unknown" doc:"Whether it points here."`
	// Texts are the texts that stand in place of the proof, Elsewhere the addresses that are not
	// ours; a few of them.
	Texts     []string `json:"texts" nullable:"false" doc:"Texts that stand in place of the proof; a few of them."`
	Elsewhere []string `json:"elsewhere" nullable:"false" doc:"Addresses it points to that are not ours; a few of them."`
	// Alias is what its CNAME entry names, where that is another host than ours.
	Alias string `json:"alias,omitempty" doc:"The host that its CNAME entry names, where that is not ours."`
	// Problem is why an answer is unknown.
	Problem string `json:"problem,omitempty" doc:"Why an answer is unknown."`
}

// State is how far a host is.
type State string

// States of hosts.
const (
	Unproven   State = "unproven"   // it is not known to be theirs
	Elsewhere  State = "elsewhere"  // it does not point here
	Certifying State = "certifying" // it has no certificate yet
	InUse      State = "in_use"
	Lost       State = "lost" // it was in use, and does not point here any more, or its certificate ran out
)

// Standing is what is known of a host.
type Standing struct {
	ProvenAt *time.Time
	// UsedSince is since when it is in use, LostAt since when it no longer is.
	UsedSince, LostAt *time.Time
	CertificateUntil  *time.Time
	// Doubts are looks in a row that did not find it pointing here, DoubtedAt when they began.
	Doubts    int
	DoubtedAt *time.Time
	// WantedAt is when it was added, or somebody asked for a look.
	WantedAt time.Time
	// CheckAt is when it is looked at next; nil for not until somebody asks.
	CheckAt *time.Time
	// Found is what the last look showed.
	Found DNSFound `gorm:"serializer:json"`
}

// StateAt is how far it is at a moment.
func (s Standing) StateAt(at time.Time) State {
	switch {
	case s.ProvenAt == nil:
		return Unproven
	case s.LostAt != nil:
		return Lost
	case s.UsedSince != nil && s.isCertified(at):
		return InUse
	case s.UsedSince != nil:
		return Lost
	case s.Found.Points != Yes:
		return Elsewhere
	default:
		return Certifying
	}
}

// LeadsAt tells whether visitors who come under the shared host are led to this one. They are not
// while there is the least doubt: the old addresses do for them what they did before.
func (s Standing) LeadsAt(at time.Time) bool { return s.StateAt(at) == InUse && s.Doubts == 0 }

func (s Standing) isCertified(at time.Time) bool {
	return s.CertificateUntil != nil && at.Before(*s.CertificateUntil)
}

const (
	// sureAfter is how many looks in a row have to find a host pointing elsewhere until it is lost.
	sureAfter = 2
	// unknownFor is for how long nobody may say where it points until it is lost.
	unknownFor = 24 * time.Hour
)

// After is what is known of a host after a look.
func (s Standing) After(found DNSFound, at time.Time) Standing {
	s.Found = found
	if s.ProvenAt == nil && found.Proof == Yes {
		s.ProvenAt = &at
	}
	switch {
	case found.Points == Yes:
		s.Doubts, s.DoubtedAt = 0, nil
		if s.isCertified(at) {
			s.LostAt = nil
		}
	case s.UsedSince != nil && s.LostAt == nil:
		s.Doubts++
		if s.DoubtedAt == nil {
			s.DoubtedAt = &at
		}
		if found.Points == No && s.Doubts >= sureAfter || !at.Before(s.DoubtedAt.Add(unknownFor)) {
			s.LostAt = &at
		}
	}
	if s.UsedSince != nil && s.LostAt == nil && !s.isCertified(at) {
		s.LostAt = &at
	}
	s.CheckAt = s.next(at)
	return s
}

// Certified is what is known of a host once it has a certificate.
func (s Standing) Certified(until, at time.Time) Standing {
	s.CertificateUntil = &until
	if s.UsedSince == nil {
		s.UsedSince = &at
	}
	if s.Found.Points == Yes {
		s.LostAt = nil
	}
	s.CheckAt = s.next(at)
	return s
}

// next is when to look again: soon where somebody waits for it or something is in doubt, and not
// for ever at what nobody goes on with.
func (s Standing) next(at time.Time) *time.Time {
	const day = 24 * time.Hour
	waited := at.Sub(s.WantedAt)
	pause := 10 * time.Minute
	switch state := s.StateAt(at); {
	case state == InUse && s.Doubts > 0:
		pause = time.Minute
	case state == InUse:
	case state == Lost:
		if away := at.Sub(later(s.WantedAt, s.LostAt)); away > 180*day {
			return nil
		} else if away > day {
			pause = time.Hour
		}
	case waited < time.Hour:
		pause = time.Minute
	case waited < day:
	case waited < 14*day:
		pause = time.Hour
	default:
		return nil
	}
	again := at.Add(pause)
	return &again
}

func later(a time.Time, b *time.Time) time.Time {
	if b != nil && b.After(a) {
		return *b
	}
	return a
}

// CertificatePause is how long to wait after a certificate was refused so many times in a row:
// who issues them counts what fails, and some let nobody try more than a few times an hour.
func CertificatePause(refusals int) time.Duration {
	return min(5*time.Minute<<min(max(refusals-1, 0), 10), 12*time.Hour)
}

// RenewFrom is when a certificate is to be renewed: when two thirds of its time are over, which is
// common practice.
func RenewFrom(from, until time.Time) time.Time { return from.Add(until.Sub(from) / 3 * 2) }
