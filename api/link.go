package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/bench/protocol"
	"vividperch/core/inquiry"
	"vividperch/core/link"
)

// Bodies of requests about the control link.
type (
	// PathQuery is the path that a budget is worked out over.
	PathQuery struct {
		Bodies float64 `query:"body" minimum:"0" maximum:"100" default:"0" doc:"Lost in bodies and foliage, dB."`
		Ground float64 `query:"ground" minimum:"0.1" maximum:"5000" default:"1.5" doc:"Height of the radio's antenna, m."`
		Air    float64 `query:"air" minimum:"0.1" maximum:"5000" default:"30" doc:"Height of the quad, m."`
	}
	linkAsk struct {
		OnQuad
		PathQuery
	}
	trackAsk struct {
		OnQuad
		PathQuery
		Body struct {
			Text string `json:"text" maxLength:"2097152" doc:"CSV or GPX."`
		}
	}
	whyAsk struct {
		Given map[string]string `json:"given" doc:"Answers so far, by question."`
	}
	questionAsk struct {
		Question string `json:"question" maxLength:"20"`
	}
	phrasesBody struct {
		Module   string `json:"module,omitempty" maxLength:"200" doc:"Only its fingerprint is kept; empty leaves what there is."`
		Receiver string `json:"receiver,omitempty" maxLength:"200"`
	}
	updateBody struct {
		Name     string `json:"name" maxLength:"80" doc:"Of the radio module."`
		Link     string `json:"link" maxLength:"40"`
		External bool   `json:"external"`
		To       string `json:"to" maxLength:"20"`
	}
	gearBody struct {
		Version int64  `json:"version" doc:"Of the pilot's wants that were seen."`
		File    string `json:"file" maxLength:"65536"`
	}
	forgetGearBody struct {
		Version int64  `json:"version"`
		Link    string `json:"link" maxLength:"40"`
	}
	gearFile struct {
		File string `json:"file" maxLength:"65536"`
	}
	bindBody struct {
		Way link.WayKind `json:"way" enum:"phrase,button,cycles"`
	}
	radioSet    struct{ Body protocol.RadioSet }
	receiverSet struct{ Body protocol.ReceiverSet }
)

func (w whyAsk) answers() map[inquiry.QuestionID]string {
	given := make(map[inquiry.QuestionID]string, len(w.Given))
	for question, answer := range w.Given {
		given[inquiry.QuestionID(question)] = answer
	}
	return given
}

func (p PathQuery) path() link.Path {
	return link.Path{Body: p.Bodies, Ground: p.Ground, Air: p.Air}
}

func linkOperations(h huma.API, a *app.App) {
	get(h, "link", "/api/quads/{id}/link", "Budget, reach and number of the control link", func(ctx context.Context, in *linkAsk) (*out[*app.LinkView], error) {
		return answer(a.Link(ctx, in.ID, in.path()))
	})
	post(h, "why", "/api/quads/{id}/link/why", "Why it will not bind: where the answers lead", func(ctx context.Context, in *quadWith[whyAsk]) (*out[*inquiry.Inquiry], error) {
		return answer(a.Why(ctx, in.ID, in.Body.answers()))
	})
	post(h, "lookFor", "/api/quads/{id}/link/look", "Look at the bench for the answer to a question", func(ctx context.Context, in *quadWith[questionAsk]) (*out[*app.Looked], error) {
		return answer(a.LookFor(ctx, in.ID, link.QuestionID(in.Body.Question)))
	})
	post(h, "checkLinkImage", "/api/quads/{id}/link/image", "Check an Intel HEX image for a receiver or a radio module", func(ctx context.Context, in *quadWith[imageBody]) (*out[*app.LinkImageView], error) {
		return answer(a.CheckLinkImage(ctx, in.ID, []byte(in.Body.Text)))
	})
	post(h, "phrases", "/api/quads/{id}/link/phrases", "Keep the fingerprints of phrases", func(ctx context.Context, in *quadWith[phrasesBody]) (*out[*app.QuadView], error) {
		return answer(a.Phrases(ctx, in.ID, app.PhrasesAsk{Module: in.Body.Module, Receiver: in.Body.Receiver}))
	})
	post(h, "track", "/api/quads/{id}/link/track", "Measure a track of strengths, and keep nothing", func(ctx context.Context, in *trackAsk) (*out[*link.Reach], error) {
		return answer(a.Track(ctx, in.ID, []byte(in.Body.Text), in.path()))
	})
	post(h, "keepTrack", "/api/quads/{id}/link/track/keep", "Keep a track of strengths", func(ctx context.Context, in *trackAsk) (*out[*app.QuadView], error) {
		return answer(a.KeepTrack(ctx, in.ID, []byte(in.Body.Text), in.path()))
	})
	post(h, "bind", "/api/quads/{id}/link/bind", "Guide a binding on the bench", func(ctx context.Context, in *quadWith[bindBody]) (*out[*app.BindingState], error) {
		return answer(a.Bind(ctx, in.ID, in.Body.Way))
	})
	post(h, "leaveBinding", "/api/bench/binding/leave", "Leave the guided binding", func(_ context.Context, _ *struct{}) (*out[done], error) {
		return onBench(a, (*app.Bench).LeaveBinding)
	})
	get(h, "fleet", "/api/fleet", "Who hears which radio", func(ctx context.Context, _ *struct{}) (*out[*app.FleetView], error) {
		return answer(a.Fleet(ctx))
	})
	post(h, "updatePlan", "/api/fleet/update", "How to bring a module and its receivers to another version", func(ctx context.Context, in *struct{ Body updateBody }) (*out[*link.UpdatePlan], error) {
		return answer(a.UpdatePlan(ctx, app.PlanAsk{Name: in.Body.Name, Link: in.Body.Link, External: in.Body.External, To: in.Body.To}))
	})
	get(h, "gear", "/api/gear", "What is known of the control links", func(ctx context.Context, _ *struct{}) (*out[*app.GearList], error) {
		return answer(a.Gear(ctx))
	})
	post(h, "readGear", "/api/gear/read", "What a file says of a link, and keep nothing", func(ctx context.Context, in *struct{ Body gearFile }) (*out[*link.Gear], error) {
		return answer(a.ReadGear(ctx, in.Body.File))
	})
	post(h, "setGear", "/api/gear", "Keep own facts of a link", func(ctx context.Context, in *struct{ Body gearBody }) (*out[*app.GearList], error) {
		return answer(a.SetGear(ctx, in.Body.Version, in.Body.File))
	})
	post(h, "forgetGear", "/api/gear/forget", "Take own facts of a link away", func(ctx context.Context, in *struct{ Body forgetGearBody }) (*out[*app.GearList], error) {
		return answer(a.ForgetGear(ctx, in.Body.Version, in.Body.Link))
	})
	post(h, "setRadio", "/api/bench/radio", "Set the radio's model and module", func(ctx context.Context, in *radioSet) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Radio(ctx, in.Body) })
	})
	post(h, "setReceiver", "/api/bench/receiver", "Hands at the receiver", func(ctx context.Context, in *receiverSet) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Receiver(ctx, in.Body) })
	})
}
