"""Numbers of nature and of the craft, each with its unit and source."""

SIDEREAL_ARCSEC_PER_S = 15.041067  # Earth's rotation against the stars; Meeus ch. 12
LUNAR_ARCSEC_PER_S = 14.49  # the Moon against the ground, its own motion taken off; rules.md#drift
DAWES_ARCSEC_MM = 116.0  # Dawes limit times aperture; Sidgwick, resolution of equal doubles
RAYLEIGH_ARCSEC_MM = 138.4  # 1.22 x 550 nm in arcsec times mm; Sidgwick
BLUR_SEEN_ARCSEC = 240.0  # blur of 4 arcmin at the eye that anybody notices; Sidgwick
BARREL_FIELD_STOP_MM = {"0.965": 23.0, "1.25": 27.0, "2": 46.0}  # clear inner diameter, about
BARREL_INCHES = {"0.965": 0.965, "1.25": 1.25, "2": 2.0}  # outer diameter by definition

TWIN_RATIO = 1.08  # two rungs closer than this show the same; rules.md#ladder
GAP_RATIO = 2.1  # a wider step is a gap: a doubling is what a Barlow gives; rules.md#ladder

SUN_HORIZON_DEG = -0.833  # centre of the Sun at sunset: refraction 34' and radius 16'; Meeus ch. 15
DIP_ARCMIN_PER_ROOT_M = 1.76  # horizon below level from h metres up, refraction counted; √h
SUN_MARGIN_MINUTES = 10.0  # the Sun counts as up so long before rising and after setting
REFRACTION_AT_HORIZON_DEG = 34 / 60  # Meeus ch. 15
TWILIGHT_DEG = {"civil": -6.0, "nautical": -12.0, "astronomical": -18.0}  # by definition
SUN_KEEP_AWAY_DEG = 30.0  # no unfiltered aiming nearer than this while the Sun is up

AU_KM = 149597870.7  # IAU 2012 Resolution B2
ARCMIN_PER_RADIAN = 180 * 60 / 3.141592653589793  # definition; the 3438 of the parallax rule
SIDEREAL_ARCMIN_PER_MIN = 15.041067  # the same rotation by the minute; Meeus ch. 12
