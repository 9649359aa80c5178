package report

import (
	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// The SARIF form of a judgement
// (https://docs.oasis-open.org/sarif/sarif/v2.1.0/sarif-v2.1.0.html). A catalog
// has no lines, so that a finding is located by the name of its object.
type (
	sarifLog struct {
		Schema  string     `json:"$schema"`
		Version string     `json:"version"`
		Runs    []sarifRun `json:"runs"`
	}
	sarifRun struct {
		Tool        sarifTool         `json:"tool"`
		Invocations []sarifInvocation `json:"invocations"`
		Results     []sarifResult     `json:"results"`
		Properties  map[string]string `json:"properties"`
		ColumnKind  string            `json:"columnKind"`
	}
	sarifTool struct {
		Driver sarifDriver `json:"driver"`
	}
	sarifDriver struct {
		Name    string      `json:"name"`
		Version string      `json:"version"`
		Rules   []sarifRule `json:"rules"`
	}
	sarifRule struct {
		ID               string             `json:"id"`
		ShortDescription sarifText          `json:"shortDescription"`
		FullDescription  sarifText          `json:"fullDescription"`
		Default          sarifConfiguration `json:"defaultConfiguration"`
	}
	sarifConfiguration struct {
		Enabled bool   `json:"enabled"`
		Level   string `json:"level"`
	}
	sarifText struct {
		Text string `json:"text"`
	}
	sarifInvocation struct {
		Successful    bool                `json:"executionSuccessful"`
		Notifications []sarifNotification `json:"toolExecutionNotifications,omitempty"`
	}
	sarifNotification struct {
		Level          string         `json:"level"`
		Message        sarifText      `json:"message"`
		AssociatedRule sarifReference `json:"associatedRule"`
	}
	sarifReference struct {
		ID    string `json:"id"`
		Index int    `json:"index"`
	}
	sarifResult struct {
		RuleID       string             `json:"ruleId"`
		RuleIndex    int                `json:"ruleIndex"`
		Level        string             `json:"level"`
		Message      sarifText          `json:"message"`
		Locations    []sarifLocation    `json:"locations"`
		Fingerprints map[string]string  `json:"partialFingerprints"`
		Suppressions []sarifSuppression `json:"suppressions,omitempty"`
		Properties   map[string]any     `json:"properties"`
	}
	sarifLocation struct {
		Logical []sarifLogical `json:"logicalLocations"`
	}
	sarifLogical struct {
		Name      string `json:"name"`
		Qualified string `json:"fullyQualifiedName"`
		Kind      string `json:"kind"`
	}
	sarifSuppression struct {
		Kind          string `json:"kind"`
		Status        string `json:"status"`
		Justification string `json:"justification,omitempty"`
	}
)

var sarifLevels = map[rule.Severity]string{rule.Error: "error", rule.Warning: "warning", rule.Notice: "note", rule.Off: "none"}

// FindingsSARIF gives the judgement as a SARIF 2.1.0 log to encode.
func FindingsSARIF(c *catalog.Catalog, r rule.Result, rules []*rule.Rule, version string) any {
	run := sarifRun{Tool: sarifTool{sarifDriver{Name: "nexdal", Version: version, Rules: []sarifRule{}}}, Results: []sarifResult{}, ColumnKind: "unicodeCodePoints",
		Properties: map[string]string{"engine": c.Engine.Name, "engineVersion": c.Engine.Version, "database": c.Database, "surveyed": sourceJSON(c).Surveyed}}
	index := map[string]int{}
	for i, x := range rules {
		index[x.ID] = i
		level := sarifLevels[x.Severity]
		run.Tool.Driver.Rules = append(run.Tool.Driver.Rules, sarifRule{x.ID, sarifText{x.Title}, sarifText{x.Doc}, sarifConfiguration{x.Severity != rule.Off, level}})
	}
	for _, f := range r.Findings {
		x := sarifResult{RuleID: f.Rule, RuleIndex: index[f.Rule], Level: sarifLevels[f.Severity], Message: sarifText{f.Message},
			Locations: []sarifLocation{{[]sarifLogical{located(c, f)}}}, Fingerprints: map[string]string{"finding/v1": f.ID()},
			Properties: map[string]any{"certainty": string(f.Certainty), "fixes": fixesJSON(f)}}
		if f.SetAside() {
			x.Suppressions = []sarifSuppression{{"external", "accepted", f.Decision.Because}}
		}
		run.Results = append(run.Results, x)
	}
	invocation := sarifInvocation{Successful: true}
	for _, u := range r.Unjudged {
		invocation.Notifications = append(invocation.Notifications, sarifNotification{"note", sarifText{unjudgedText(u)}, sarifReference{u.Rule, index[u.Rule]}})
	}
	run.Invocations = []sarifInvocation{invocation}
	return sarifLog{"https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json", "2.1.0", []sarifRun{run}}
}

// located names the object of a finding within its table, schema and database.
func located(c *catalog.Catalog, f rule.Finding) sarifLogical {
	name, kind := f.Object, "member"
	qualified := f.Table.String()
	switch {
	case f.Table.Table == "" && f.Object == "":
		return sarifLogical{c.Database, c.Database, "database"}
	case f.Table.Table == "":
		qualified = f.Table.Schema + "." + f.Object
	case f.Object == "" || f.Object == f.Table.Table:
		name, kind = f.Table.Table, "table"
	default:
		qualified += "." + f.Object
	}
	return sarifLogical{name, qualified, kind}
}
