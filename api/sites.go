package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/site"
)

// OnSite names a site in the path.
type OnSite struct {
	ID int64 `path:"id" minimum:"1"`
}

type (
	addSiteBody struct {
		Name string   `json:"name" minLength:"1" maxLength:"40"`
		Map  site.Map `json:"map"`
	}
	changeSiteBody struct {
		Version int64    `json:"version" doc:"Of the site, as it was seen."`
		Map     site.Map `json:"map"`
	}
)

type siteWith[B any] struct {
	OnSite
	Body B
}

func sitesOperations(h huma.API, a *app.App) {
	get(h, "sites", "/api/sites", "The pilot's sites", func(ctx context.Context, _ *struct{}) (*out[[]app.SiteNamed], error) {
		return answer(a.Sites(ctx))
	})
	get(h, "site", "/api/sites/{id}", "A site with its map", func(ctx context.Context, in *OnSite) (*out[*app.SiteMapped], error) {
		return answer(a.Site(ctx, in.ID))
	})
	post(h, "addSite", "/api/sites", "Keep a new site", func(ctx context.Context, in *struct{ Body addSiteBody }) (*out[*app.SiteMapped], error) {
		return answer(a.AddSite(ctx, in.Body.Name, in.Body.Map))
	})
	post(h, "changeSite", "/api/sites/{id}", "Put another map in the place of a site's", func(ctx context.Context, in *siteWith[changeSiteBody]) (*out[*app.SiteMapped], error) {
		return answer(a.ChangeSite(ctx, in.ID, in.Body.Version, in.Body.Map))
	})
	post(h, "forgetSite", "/api/sites/{id}/forget", "Take a site away", func(ctx context.Context, in *siteWith[versionBody]) (*out[[]app.SiteNamed], error) {
		return answer(a.ForgetSite(ctx, in.ID, in.Body.Version))
	})
}
