package main

import (
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"regexp"
	"strings"
	"time"
)

// tokenField is where a page of Kolvan has the token that shows a form to be its own.
var tokenField = regexp.MustCompile(`name="_csrf" value="([^"]+)"`)

// sendWithin bounds what sending takes, and mostAnswer what is read of an answer.
const (
	sendWithin = 20 * time.Second
	mostAnswer = 4 << 20
)

// sendPart puts a part into the bins of the Kolvan that runs at an address of this machine, as
// its page of pasted parts does, and returns where it stands there.
func sendPart(addr, text string) (string, error) {
	host, _, err := net.SplitHostPort(addr)
	if ip := net.ParseIP(host); err != nil || host != "localhost" && (ip == nil || !ip.IsLoopback()) {
		return "", fmt.Errorf("--to %q is not accepted; accepted: the address, host:port, of a Kolvan on this machine", addr)
	}
	jar, err := cookiejar.New(nil)
	if err != nil {
		return "", err
	}
	browser := &http.Client{
		Jar: jar, Timeout: sendWithin, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse },
	}
	answer, err := browser.Get("http://" + addr + "/paste")
	if err != nil {
		return "", fmt.Errorf("no Kolvan answers at %s: %w", addr, err)
	}
	page, err := bodyOf(answer)
	token := tokenField.FindStringSubmatch(page)
	if err != nil || token == nil {
		return "", errors.Join(fmt.Errorf("what answers at %s is no Kolvan that takes parts", addr), err)
	}
	answer, err = browser.PostForm("http://"+addr+"/bins", url.Values{"_csrf": {token[1]}, "pasted": {text}})
	if err != nil {
		return "", fmt.Errorf("sending to %s: %w", addr, err)
	}
	if _, err = bodyOf(answer); err != nil || answer.StatusCode != http.StatusSeeOther {
		return "", errors.Join(fmt.Errorf("%s did not take it: %s", addr, answer.Status), err)
	}
	return "http://" + addr + answer.Header.Get("Location"), nil
}

func bodyOf(answer *http.Response) (string, error) {
	defer answer.Body.Close()
	var text strings.Builder
	_, err := io.Copy(&text, io.LimitReader(answer.Body, mostAnswer))
	return text.String(), err
}
