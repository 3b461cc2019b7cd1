// Runs before the first paint, so that a dark place never sees a white flash; where it fails the page stays dark.
(function () {
  var root = document.documentElement
  try {
    var stored = JSON.parse(localStorage.getItem('jade-perch.regime') || '"daylight"')
    root.dataset.regime = ['daylight', 'dusk', 'dark'].indexOf(stored) >= 0 ? stored : 'dark'
    // at the eyepiece it begins dark, unless it was day when it was last open
    if (location.pathname.indexOf('/eyepiece') === 0 && localStorage.getItem('jade-perch.eyepiece-is-night') !== 'false') {
      root.dataset.regime = root.dataset.held = 'dark'
    }
  } catch (error) {
    root.dataset.regime = 'dark'
  }
})()
