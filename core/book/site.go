package book

import (
	"vividperch/core/quad"
	"vividperch/core/site"
)

// Site is a place where a pilot flies.
type Site struct {
	ID      int64
	Name    string
	Version int64 // of it; it counts its changes
	Map     site.Map
}

// MostSites of a pilot.
const MostSites = 100

// What can go wrong with a pilot's sites.
var (
	ErrNoSite      = quad.Faultf("no-site", "", "there is no such site among yours")
	ErrSiteChanged = quad.Faultf("changed", "", "this site was changed in another window; look at it again")
	ErrSiteNamed   = quad.Faultf("same-name", "name", "you have a site of this name")
	ErrManySites   = quad.Faultf("too-many", "", "you have as many sites as can be kept: forget one first")
)
