package service

import (
	"errors"
	"fmt"
	"time"

	"jundle/internal/app/domains"
	"jundle/internal/certificates"
	"jundle/internal/standin"
)

// readyDomains readies what hosts of creators' own want, and the stand-ins for it, where there are to be any.
func (s *Service) readyDomains() error {
	if err := s.makeUpDomains(); err != nil {
		return err
	}
	if !s.Settings.HasDomains() {
		return nil
	}
	resolving, err := s.Settings.Resolving()
	if err != nil {
		return err
	}
	roots, err := s.Settings.TrustedIssuers()
	if err != nil {
		return err
	}
	if s.made.Issuer != nil {
		roots = s.made.Issuer.Roots()
	}
	s.certificates, err = certificates.New(certificates.Options{
		Store: s.Stores.Background, Directory: s.Settings.ACMEURL, Email: s.Settings.ACMEEmail, Roots: roots, Listen: s.Settings.TLSListen,
		Has: func(host string) bool {
			pages := s.pages.Load()
			return pages != nil && pages.HasCertificate(host)
		},
	})
	if err != nil {
		return err
	}
	s.domains = &domains.Domains{
		Store: s.Stores.Background, Look: resolving.Look, Addresses: resolving.Addresses, Target: resolving.Target,
		Obtain: s.certificates.Obtain, Clean: s.certificates.Clean, Now: time.Now,
	}
	return nil
}

// makeUpDomains opens the made-up name server and the made-up issuer of certificates.
func (s *Service) makeUpDomains() error {
	if s.Settings.StandinDNS != "" {
		s.made.Names = standin.NewNames()
		if err := s.made.Names.Listen(s.Settings.StandinDNS); err != nil {
			return fmt.Errorf("the made-up name server cannot listen: %w. Set JUNDLE_STANDIN_DNS_LISTEN to a free port", err)
		}
	}
	if s.Settings.StandinACME == "" {
		return nil
	}
	port, err := standin.PortOf(s.Settings.TLSListen)
	if err != nil {
		return fmt.Errorf("the made-up issuer of certificates wants JUNDLE_TLS_LISTEN: %w", err)
	}
	if s.made.Issuer, err = standin.NewIssuer(s.Settings.StandinDNS, port); err != nil {
		return err
	}
	if err := s.made.Issuer.Listen(s.Settings.StandinACME); err != nil {
		return fmt.Errorf("the made-up issuer of certificates cannot listen: %w. Set JUNDLE_STANDIN_ACME_LISTEN to a free port", err)
	}
	return nil
}

// endDomains ends all of that.
func (s *Service) endDomains() error {
	if s.certificates != nil {
		s.certificates.Close()
	}
	var errs []error
	if s.made.Names != nil {
		errs = append(errs, s.made.Names.Close())
	}
	if s.made.Issuer != nil {
		errs = append(errs, s.made.Issuer.Close())
	}
	return errors.Join(errs...)
}
