package text

import "fmt"

// Portion is a share, 0 to 1, in per cent, never rounded to all or none.
func Portion(share float64) string {
	switch v := 100 * share; {
	case v > 0 && v < 0.1:
		return "under 0.1 %"
	case v > 99.9 && v < 100:
		return "over 99.9 %"
	case v >= 10 || v == float64(int(v)):
		return fmt.Sprintf("%.0f %%", v)
	default:
		return fmt.Sprintf("%.1f %%", v)
	}
}
