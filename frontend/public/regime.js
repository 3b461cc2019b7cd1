// Runs before the first paint, so that a dark place never sees a white flash.
(function () {
  try {
    var stored = JSON.parse(localStorage.getItem('jade-perch.regime') || '"daylight"')
    if (['daylight', 'dusk', 'dark'].indexOf(stored) >= 0) document.documentElement.dataset.regime = stored
  } catch (error) {
    document.documentElement.dataset.regime = 'daylight'
  }
})()
