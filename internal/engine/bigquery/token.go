package bigquery

import (
	"context"
	"errors"
	"io/fs"
	"os"
	"path/filepath"

	"golang.org/x/oauth2"
	"golang.org/x/oauth2/google"
)

// What an account may do with the token: a session that only reads asks for no more
// (https://developers.google.com/identity/protocols/oauth2/scopes#bigquery).
const (
	forReading = "https://www.googleapis.com/auth/bigquery.readonly"
	forWriting = "https://www.googleapis.com/auth/bigquery"
)

// ownTokens are the variables in which the usual programs hand on a token.
var ownTokens = []string{"GOOGLE_OAUTH_ACCESS_TOKEN", "CLOUDSDK_AUTH_ACCESS_TOKEN"}

// errNoAccount says that nothing tells who asks.
var errNoAccount = errors.New("there is neither a token (GOOGLE_OAUTH_ACCESS_TOKEN) nor a credentials file (GOOGLE_APPLICATION_CREDENTIALS)")

// tokens are where tokens come from: the environment, or the credentials file
// (https://cloud.google.com/docs/authentication/application-default-credentials). From says which,
// for messages.
func tokens(ctx context.Context, scope string) (source oauth2.TokenSource, from string, err error) {
	for _, name := range ownTokens {
		if token := os.Getenv(name); token != "" {
			return oauth2.StaticTokenSource(&oauth2.Token{AccessToken: token}), name, nil
		}
	}
	path := os.Getenv("GOOGLE_APPLICATION_CREDENTIALS")
	if path == "" {
		folder := os.Getenv("CLOUDSDK_CONFIG")
		if home, err := os.UserHomeDir(); folder == "" && err == nil {
			folder = filepath.Join(home, ".config", "gcloud")
		}
		path = filepath.Join(folder, "application_default_credentials.json")
	}
	data, err := os.ReadFile(path)
	if errors.Is(err, fs.ErrNotExist) && os.Getenv("GOOGLE_APPLICATION_CREDENTIALS") == "" {
		return nil, "", errNoAccount
	}
	if err != nil {
		return nil, path, err
	}
	c, err := google.CredentialsFromJSON(ctx, data, scope)
	if err != nil {
		return nil, path, errors.New(path + " holds no credentials") // what it holds is not for messages
	}
	return c.TokenSource, path, nil
}
