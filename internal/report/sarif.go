package report

import (
	"net/url"
	"strings"

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
		Help             sarifText          `json:"help"`
		HelpURI          string             `json:"helpUri,omitempty"`
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
		Level          string          `json:"level"`
		Message        sarifText       `json:"message"`
		AssociatedRule *sarifReference `json:"associatedRule,omitempty"`
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
		Physical sarifPhysical  `json:"physicalLocation"`
		Logical  []sarifLogical `json:"logicalLocations"`
	}
	sarifPhysical struct {
		Artifact sarifArtifact `json:"artifactLocation"`
		Region   sarifRegion   `json:"region"`
	}
	sarifArtifact struct {
		URI string `json:"uri"`
	}
	sarifRegion struct {
		Line int `json:"startLine"`
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

// FindingsSARIF gives the judgements as a SARIF 2.1.0 log to encode, with a run for each source.
func FindingsSARIF(list []Judgement, version string) any {
	log := sarifLog{"https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json", "2.1.0", []sarifRun{}}
	for _, j := range list {
		if j.Failed != "" {
			log.Runs = append(log.Runs, sarifRun{Tool: sarifTool{sarifDriver{Name: "nexdal", Version: version, Rules: []sarifRule{}}}, Results: []sarifResult{}, ColumnKind: "unicodeCodePoints",
				Properties:  map[string]string{"source": j.Name},
				Invocations: []sarifInvocation{{Notifications: []sarifNotification{{Level: "error", Message: sarifText{j.Failed}}}}}})
			continue
		}
		log.Runs = append(log.Runs, sarifOf(j, version))
	}
	return log
}

func sarifOf(j Judgement, version string) sarifRun {
	c, r, rules := j.Catalog, j.Result, j.Rules
	run := sarifRun{Tool: sarifTool{sarifDriver{Name: "nexdal", Version: version, Rules: []sarifRule{}}}, Results: []sarifResult{}, ColumnKind: "unicodeCodePoints",
		Properties: map[string]string{"engine": c.Engine.Name, "engineVersion": c.Engine.Version, "database": c.Database, "surveyed": sourceJSON(c).Surveyed}}
	index := map[string]int{}
	for i, x := range rules {
		index[x.ID] = i
		level := sarifLevels[x.Severity]
		run.Tool.Driver.Rules = append(run.Tool.Driver.Rules, sarifRule{x.ID, sarifText{x.Title}, sarifText{x.Doc}, sarifText{x.Title + "\n\n" + x.Doc + "\n\nnexdal rules " + x.ID}, helpAddress(x), sarifConfiguration{x.Severity != rule.Off, level}})
	}
	for _, f := range r.Findings {
		x := sarifResult{RuleID: f.Rule, RuleIndex: index[f.Rule], Level: sarifLevels[f.Severity], Message: sarifText{f.Message},
			Locations: []sarifLocation{{sarifPhysical{sarifArtifact{artifact(c, f)}, sarifRegion{1}}, []sarifLogical{located(c, f)}}}, Fingerprints: map[string]string{"finding/v1": f.ID()},
			Properties: map[string]any{"certainty": string(f.Certainty), "fixes": fixesJSON(f), "consequence": string(f.Consequence), "commands": j.Call.Next(f)}}
		if f.SetAside() {
			x.Suppressions = []sarifSuppression{{"external", "accepted", f.Decision.Because}}
		}
		run.Results = append(run.Results, x)
	}
	invocation := sarifInvocation{Successful: true}
	for _, u := range r.Unjudged {
		invocation.Notifications = append(invocation.Notifications, sarifNotification{"note", sarifText{unjudgedText(u)}, &sarifReference{u.Rule, index[u.Rule]}})
	}
	run.Invocations = []sarifInvocation{invocation}
	return run
}

// artifact is the address of a finding's table. A catalog has no files; viewers group by them and
// leave out results without one, so that each table stands for one.
func artifact(c *catalog.Catalog, f rule.Finding) string {
	parts := []string{c.Database}
	if f.Table.Schema != "" {
		parts = append(parts, f.Table.Schema)
	}
	if f.Table.Table != "" {
		parts = append(parts, f.Table.Table)
	}
	for i, x := range parts {
		parts[i] = url.PathEscape(x)
	}
	return strings.Join(parts, "/")
}

// helpAddress is the address of the rule's text, which this program itself tells: a name
// (https://www.rfc-editor.org/rfc/rfc8141) and no page. The rules of a house have none.
func helpAddress(r *rule.Rule) string {
	if r.Area() == "house" {
		return ""
	}
	return "urn:nexdal:rule:" + r.ID
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
