// Runs before the first paint, so that a dark place never sees a white flash.
(function () {
  try {
    var stored = JSON.parse(localStorage.getItem('jade-perch.regime') || '"daylight"')
    if (['daylight', 'dusk', 'dark'].indexOf(stored) >= 0) document.documentElement.dataset.regime = stored
    // at the eyepiece it begins dark, unless it was day when it was last open
    if (location.pathname.indexOf('/eyepiece') === 0 && localStorage.getItem('jade-perch.eyepiece-is-night') !== 'false') {
      document.documentElement.dataset.regime = document.documentElement.dataset.held = 'dark'
    }
  } catch (error) {
    document.documentElement.dataset.regime = 'daylight'
  }
})()
