package command

import (
	"moatline/internal/core/language"
	"moatline/internal/presentation/text"
)

func clean(s string) string { return text.Line(s) }

func title(lang string) string { return language.Title(lang) }
